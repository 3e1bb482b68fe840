import type { Case } from '../case.ts'

export default {
  title: 'mine retuned all of a list to which vanilla added one',
  conflicts: [],
} satisfies Case
