import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts a nameless element that mine dropped into a new one: it stands there, which is told',
  conflicts: [],
  notes: ['carry/stands-inside'],
} satisfies Case
