import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts a member inside a new one of its name: what mine added to it does not go to the new one unasked',
  conflicts: [{ key: 'hold', kind: 'two-values' }],
} satisfies Case
