import type { Case } from '../case.ts'

export default {
  title: 'mine is indented by tabs, and vanilla fills what was empty and what stood on one line',
  conflicts: [],
} satisfies Case
