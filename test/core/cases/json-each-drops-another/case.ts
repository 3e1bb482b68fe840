import type { Case } from '../case.ts'

export default {
  title: 'mine replaced the first of two that are equal, vanilla dropped the second',
  conflicts: [],
  changes: ['vanilla removed tides[5]', 'mine changed tides[0]'],
} satisfies Case
