import type { Case } from '../case.ts'

export default {
  title: 'the same with a key that is repeated',
  conflicts: [],
} satisfies Case
