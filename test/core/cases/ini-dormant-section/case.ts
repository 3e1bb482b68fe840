import type { Case } from '../case.ts'

export default {
  title: 'a section that mine has commented out, and vanilla changes another',
  conflicts: [],
  changes: ['vanilla changed cutter/crew', 'mine removed smack'],
} satisfies Case
