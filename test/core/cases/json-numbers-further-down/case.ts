import type { Case } from '../case.ts'

export default {
  title: 'entries hold a number further down that vanilla gives anew: an edit stays with the entry that it was made in',
  conflicts: [],
} satisfies Case
