import type { Case } from '../case.ts'

export default {
  title: 'a key that vanilla puts before each group is asked of the group that mine dropped alone',
  conflicts: [{ key: 'Gear/Name~3', kind: 'gone-in-mine' }],
} satisfies Case
