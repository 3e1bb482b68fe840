import type { Case } from '../case.ts'

export default {
  title: 'a list grew, and which of its equal values were there before can be read in ways of few gaps and of many',
  conflicts: [{ key: 'gear', kind: 'two-values' }],
} satisfies Case
