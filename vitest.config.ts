import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'
import type { TestSpecification } from 'vitest/node'
import { BaseSequencer } from 'vitest/node'

/** What takes longest: where it began last, one core would wait for the other. */
const LONG = /(golden|laws|short-ways|lists|update|killed|screen|workspace)\.test\.ts$/

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files)
    const isLong = ({ moduleId }: TestSpecification): boolean => LONG.test(moduleId)
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))]
  }
}

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    testTimeout: 120_000,
    // by default one core is left to others, and with two cores that is half of them
    maxWorkers: Math.max(1, availableParallelism()),
    reporters: ['default'],
    sequence: { sequencer: LongestFirst },
  },
})
