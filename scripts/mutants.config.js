import { defineConfig } from 'vitest/config'

/** The tests that are to find mutants of the merge: core's, with few tries a law, for they run once a mutant. */
export default defineConfig({
  test: {
    include: [
      'test/core/cases.test.ts',
      'test/core/{carry,identity,laws,match,plan,report,write}/**/*.test.ts',
    ],
    exclude: ['test/core/carry/{hostile,memory}.test.ts'],
    env: { LAW_RUNS: '60' },
    testTimeout: 60_000,
  },
})
