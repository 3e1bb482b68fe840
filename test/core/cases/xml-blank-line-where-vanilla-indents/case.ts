import type { Case } from '../case.ts'

export default {
  title: 'vanilla indents entries anew, and not the comments above them: a blank line of mine stays, and so do the comments',
  conflicts: [],
} satisfies Case
