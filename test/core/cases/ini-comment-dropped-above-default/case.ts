import type { Case } from '../case.ts'

export default {
  title: "mine dropped the comment above a section in comments that both made live: it stays dropped",
  conflicts: [],
} satisfies Case
