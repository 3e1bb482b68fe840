import type { Case } from '../case.ts'

export default {
  title: 'of keys with equal values mine drops one, and vanilla changes both: no value goes to another key unasked',
  conflicts: [{ key: '', kind: 'two-values' }],
} satisfies Case
