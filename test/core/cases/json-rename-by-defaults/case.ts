import type { Case } from '../case.ts'

export default {
  title: 'what all siblings share is no evidence of a rename: a question, and the new entry stands as it came',
  conflicts: [{ key: '[barge]', kind: 'gone-in-vanilla' }],
  changes: ['vanilla added [lugger]'],
} satisfies Case
