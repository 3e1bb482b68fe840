import type { Case } from '../case.ts'

export default {
  title: 'vanilla adds one more of what mine changed beside it: nobody knows which of the two mine changed',
  conflicts: [{ key: 'watch', kind: 'two-values' }],
} satisfies Case
