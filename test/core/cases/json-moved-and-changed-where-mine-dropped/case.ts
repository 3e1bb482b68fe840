import type { Case } from '../case.ts'

export default {
  title: 'vanilla moves and changes an entry that mine had dropped: it is asked',
  conflicts: [{ key: 'east[diver]', kind: 'gone-in-mine' }],
} satisfies Case
