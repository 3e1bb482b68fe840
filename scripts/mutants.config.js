import { BaseSequencer } from 'vitest/node'
import { defineConfig } from 'vitest/config'

/** What finds a mutant soonest runs first: the run of a mutant ends at the first test that fails. */
const FIRST = [
  'test/core/cases.test.ts',
  'test/core/plan/config-places.test.ts',
  'test/core/laws/small-worlds.test.ts',
  'test/core/laws/edited-cases.test.ts',
  'test/core/report/rows.test.ts',
  'test/core/identity/identity.test.ts',
  'test/core/plan/decide.test.ts',
  'test/core/laws/dormant.test.ts',
  'test/core/laws/without-edits.test.ts',
  'test/core/laws/lists.test.ts',
]

class QuickFirst extends BaseSequencer {
  async sort(specifications) {
    const rank = ({ moduleId }) => {
      const at = FIRST.findIndex((path) => moduleId.endsWith(path))
      return at === -1 ? FIRST.length : at
    }
    return [...specifications].sort((one, other) => rank(one) - rank(other))
  }
}

/** The tests that are to find mutants of the merge: core's, with few tries a law, for they run once a mutant. */
export default defineConfig({
  test: {
    include: [
      'test/core/cases.test.ts',
      'test/core/{carry,identity,laws,match,plan,report,write}/**/*.test.ts',
    ],
    exclude: ['test/core/carry/{hostile,memory}.test.ts'],
    env: { LAW_RUNS: '30', LAW_SHRINK: 'no' },
    sequence: { sequencer: QuickFirst },
    testTimeout: 60_000,
    // modules are loaded once, and not once more for every file of tests
    isolate: false,
  },
})
