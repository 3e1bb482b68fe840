import type { Case } from '../case.ts'

export default {
  title: 'an edit follows an entry whose id stands in another list, too',
  conflicts: [],
  notes: ['carry/moved-away'],
} satisfies Case
