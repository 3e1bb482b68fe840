import type { Case } from '../case.ts'

export default {
  title: 'comments that mine rewrote around an entry that vanilla moved stay or are quoted',
  conflicts: [],
  notes: ['carry/comment-of-removed', 'carry/moved-away'],
} satisfies Case
