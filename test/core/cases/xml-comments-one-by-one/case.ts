import type { Case } from '../case.ts'

export default {
  title: 'of several comments above an entry each is carried by itself',
  conflicts: [],
  changes: ['vanilla changed find/@worth'],
  notes: ['carry/comment-not-taken'],
} satisfies Case
