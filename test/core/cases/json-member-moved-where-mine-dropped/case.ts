import type { Case } from '../case.ts'

export default {
  title: 'a member that vanilla moved and changed, and mine dropped, is asked',
  conflicts: [{ key: 'tools/lamp', kind: 'gone-in-mine', perhaps: { key: 'gear/lamp' } }],
} satisfies Case
