import type { Case } from '../case.ts'

export default {
  title: 'members of a file with comments: mine comments the last one out, and makes one live that vanilla made live',
  conflicts: [],
  changes: ['vanilla changed depth', 'both added charts', 'mine removed oxygen'],
} satisfies Case
