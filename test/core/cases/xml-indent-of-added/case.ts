import type { Case } from '../case.ts'

export default {
  title: 'mine is indented by tabs, every element has attributes, and vanilla adds an entry',
  conflicts: [],
} satisfies Case
