import type { Case } from '../case.ts'

export default {
  title: 'both wrote one comment, mine above an entry that vanilla dropped: vanilla\'s stays',
  conflicts: [],
  notes: ['carry/comment-of-removed'],
} satisfies Case
