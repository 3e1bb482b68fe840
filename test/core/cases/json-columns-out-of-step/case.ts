import type { Case } from '../case.ts'

export default {
  title: 'columns side by side: vanilla adds one, and mine dropped a row: the new one is longer than the others, and that is told',
  conflicts: [],
  notes: ['carry/out-of-step'],
} satisfies Case
