import type { Case } from '../case.ts'

export default {
  title: 'both put the same in the place of an entry, each elsewhere: none is left that it could be',
  conflicts: [],
} satisfies Case
