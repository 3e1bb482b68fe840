import type { Case } from '../case.ts'

export default {
  title: 'both gave all entries other names: nothing tells which is which, and nothing stands twice',
  conflicts: [{ key: '', kind: 'two-values' }],
  changes: [],
} satisfies Case
