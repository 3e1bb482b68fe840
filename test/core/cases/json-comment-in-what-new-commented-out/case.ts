import type { Case } from '../case.ts'

export default {
  title: 'a comment that mine put into what vanilla commented out is quoted',
  conflicts: [],
  notes: ['carry/comment-of-removed'],
  changes: ['vanilla removed dive'],
} satisfies Case
