import type { Case } from '../case.ts'

export default {
  title: 'two entries of one id that vanilla brings are no question where mine changed others alone',
  conflicts: [],
  changes: [
    'mine changed [rope-coil]/worth',
    'vanilla added [storm-glass]',
    'vanilla added [storm-glass]~2',
  ],
} satisfies Case
