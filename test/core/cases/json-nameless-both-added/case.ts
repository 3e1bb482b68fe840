import type { Case } from '../case.ts'

export default {
  title: 'two nameless entries that both sides added are one only where they are equal',
  conflicts: [],
  changes: ['vanilla added [5]', 'mine added [0]'],
} satisfies Case
