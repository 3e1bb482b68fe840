import type { Case } from '../case.ts'

export default {
  title: 'both dropped a section and wrote another in comments: there is no name that the section has now',
  conflicts: [],
  changes: ['both removed smack'],
  notes: ['carry/comment-not-taken'],
} satisfies Case
