import type { Case } from '../case.ts'

export default {
  title: 'both put in a group of keys at one place, and one value of theirs is equal: which keys are whose is asked',
  conflicts: [{ key: 'Gear/Name~2', kind: 'two-new' }],
} satisfies Case
