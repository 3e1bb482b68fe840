import type { Case } from '../case.ts'

export default {
  title: 'both changed an entry that shares nothing rare with itself: one question',
  conflicts: [{ key: 'steps[1]', kind: 'two-values' }],
  changes: [],
} satisfies Case
