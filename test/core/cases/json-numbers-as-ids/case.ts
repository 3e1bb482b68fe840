import type { Case } from '../case.ts'

export default {
  title: 'an id that is a number is shown as it stands',
  conflicts: [],
  changes: ['vanilla changed zones[10]/v', 'mine changed zones[20]/v'],
} satisfies Case
