import type { Case } from '../case.ts'

export default {
  title: 'both put another in the place of one item: one question',
  conflicts: [{ key: 'charts[1]', kind: 'two-values' }],
  changes: [],
} satisfies Case
