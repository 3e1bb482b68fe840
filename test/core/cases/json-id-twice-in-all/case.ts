import type { Case } from '../case.ts'

export default {
  title: 'an entry that stands twice in all three is no question where others were changed',
  conflicts: [],
  changes: [
    'vanilla changed [brass-lamp]/worth',
    'vanilla added [storm-glass]',
    'mine changed [keel-bolt]/worth',
  ],
} satisfies Case
