import type { Case } from '../case.ts'

export default {
  title: 'an entry that mine has commented out and vanilla changed, and one that vanilla has commented out',
  conflicts: [{ key: 'find[lamp]', kind: 'gone-in-mine' }],
  changes: ['vanilla removed find[bell]', 'mine changed find[rope]/worth'],
} satisfies Case
