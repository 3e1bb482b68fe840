import type { Case } from '../case.ts'

export default {
  title: 'vanilla moves an entry to another list that mine had dropped: it is dropped there, too',
  conflicts: [],
  changes: ['mine removed east[diver]', 'vanilla moved west[diver]'],
  notes: ['carry/dropped-away'],
} satisfies Case
