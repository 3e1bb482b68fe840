import type { Case } from '../case.ts'

export default {
  title: 'what vanilla may have renamed and mine dropped comes in, and is told',
  conflicts: [],
  notes: ['carry/perhaps-renamed'],
} satisfies Case
