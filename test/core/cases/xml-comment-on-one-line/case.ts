import type { Case } from '../case.ts'

export default {
  title: "a comment behind the opening on one line belongs to the opening",
  conflicts: [],
} satisfies Case
