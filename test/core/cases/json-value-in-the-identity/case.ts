import type { Case } from '../case.ts'

export default {
  title: 'a number is no part of an identity: a value that changes is not another entry',
  conflicts: [{ key: 'gear[0]', kind: 'two-values' }],
  changes: [],
} satisfies Case
