import type { Case } from '../case.ts'

export default {
  title: 'a comment that all three have alike stands as they have it, though vanilla indented the entries',
  conflicts: [],
  changes: ['mine changed buoy[reef]/@every'],
} satisfies Case
