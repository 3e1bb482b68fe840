import type { Case } from '../case.ts'

export default {
  title: 'vanilla moved an entry to another list, and the edits follow',
  conflicts: [],
  changes: ['vanilla moved west[diver]', 'mine changed west[diver]/pay'],
  notes: ['carry/moved-away'],
} satisfies Case
