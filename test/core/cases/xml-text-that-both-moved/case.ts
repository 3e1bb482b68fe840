import type { Case } from '../case.ts'

export default {
  title: "a text that stands elsewhere among the elements in each document is one text",
  conflicts: [],
} satisfies Case
