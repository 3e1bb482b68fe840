import type { Case } from '../case.ts'

export default {
  title: 'an entry without a name that vanilla moved is not the one that mine put in its place',
  conflicts: [{ key: 'deck[0]', kind: 'gone-in-vanilla' }],
  changes: ['vanilla added hold[0]'],
} satisfies Case
