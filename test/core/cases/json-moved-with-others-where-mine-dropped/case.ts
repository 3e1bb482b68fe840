import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts all of a list into another list: what mine had dropped is dropped there, too',
  conflicts: [],
  changes: [
    'mine changed west[smith]/pay',
    'mine removed east[diver]',
    'vanilla added crew',
    'vanilla moved crew[diver]',
    'vanilla removed east[cook]',
    'vanilla removed east[mate]',
  ],
  notes: ['carry/dropped-away'],
} satisfies Case
