import type { Case } from '../case.ts'

export default {
  title: 'both changed the first of two lines of one key: one question, one line',
  conflicts: [{ key: 'Stock/+Find', kind: 'two-values' }],
  changes: [],
} satisfies Case
