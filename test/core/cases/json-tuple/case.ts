import type { Case } from '../case.ts'

export default {
  title: 'a tuple of numbers is one value: mine stands where both changed it, and 1.0 is 1',
  conflicts: [{ key: 'pier', kind: 'two-values' }],
  changes: ['vanilla changed reef[1]'],
} satisfies Case
