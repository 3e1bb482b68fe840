import type { Case } from '../case.ts'

export default {
  title: 'vanilla has a section twice that mine changed: which of the two it was nobody knows',
  conflicts: [{ key: 'lamp', kind: 'two-values' }],
  changes: ['mine changed dive/depth'],
} satisfies Case
