import type { Case } from '../case.ts'

export default {
  title: 'an edit never goes to an entry that shares nothing with the one it was made to',
  conflicts: [{ key: '[5]', kind: 'gone-in-vanilla' }],
} satisfies Case
