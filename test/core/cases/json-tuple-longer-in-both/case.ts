import type { Case } from '../case.ts'

export default {
  title: 'a call to which both gave another argument is one question',
  conflicts: [{ key: 'on-dive', kind: 'two-values' }],
} satisfies Case
