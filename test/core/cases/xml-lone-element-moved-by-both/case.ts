import type { Case } from '../case.ts'

export default {
  title: 'a lone element that both moved and mine changed stands once',
  conflicts: [],
} satisfies Case
