import type { Case } from '../case.ts'

export default {
  title: "vanilla dropped two equal keys of which mine kept one under a comment of its own: the comment stays",
  conflicts: [],
  notes: ['carry/comment-of-removed'],
} satisfies Case
