import type { Case } from '../case.ts'

export default {
  title: 'a section that vanilla dropped and mine has commented out stays in its comments, beside one that vanilla brought in comments',
  conflicts: [],
  changes: ['both removed smack'],
} satisfies Case
