import type { Case } from '../case.ts'

export default {
  title: 'the last entry is dropped by one side while the other adds one behind it: commas fit',
  conflicts: [],
  changes: ['mine changed low', 'mine removed high', 'vanilla added rest'],
} satisfies Case
