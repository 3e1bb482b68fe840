import type { Case } from '../case.ts'

export default {
  title: "a comment that stands above an entry in comments in mine, and apart in vanilla, is not lost with that entry",
  conflicts: [],
} satisfies Case
