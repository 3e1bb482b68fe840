import type { Case } from '../case.ts'

export default {
  title: "what vanilla adds on one line goes into mine's lines, and an empty object takes vanilla's form",
  conflicts: [],
} satisfies Case
