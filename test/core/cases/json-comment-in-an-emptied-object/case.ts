import type { Case } from '../case.ts'

export default {
  title: 'mine wrote a comment into an empty object that vanilla fills: it stays on the line of the opening',
  conflicts: [],
} satisfies Case
