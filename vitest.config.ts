import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    testTimeout: 120_000,
    // by default one core is left to others, and with two cores that is half of them
    maxWorkers: Math.max(1, availableParallelism()),
    reporters: ['default'],
  },
})
