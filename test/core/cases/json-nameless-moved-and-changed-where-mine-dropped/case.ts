import type { Case } from '../case.ts'

export default {
  title: 'an entry without an id that vanilla moved and changed, and mine dropped, is asked',
  conflicts: [{ key: 'deck[1]~2', kind: 'gone-in-mine', perhaps: { key: 'locker[1]' } }],
} satisfies Case
