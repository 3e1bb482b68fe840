import type { Case } from '../case.ts'

export default {
  title: 'each side adds an entry of another id to a list that was empty: two entries',
  conflicts: [],
  changes: ['vanilla added crew/hand[cook]', 'mine added crew/hand[diver]'],
} satisfies Case
