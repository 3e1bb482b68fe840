import type { Case } from '../case.ts'

export default {
  title: 'words in a comment that read as keys are merged by lines, and none of mine is lost',
  conflicts: [],
  changes: ['vanilla changed finds/depth'],
} satisfies Case
