import type { Case } from '../case.ts'

export default {
  title: 'a comment that vanilla rewrote in a section that mine has commented out is quoted',
  conflicts: [],
  notes: ['carry/comment-not-taken'],
  changes: ['mine removed Lamp'],
} satisfies Case
