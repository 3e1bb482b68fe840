import type { Case } from '../case.ts'

export default {
  title: 'an id that templates lack is still what tells the others apart',
  conflicts: [{ key: '[r2]/air', kind: 'two-values' }],
} satisfies Case
