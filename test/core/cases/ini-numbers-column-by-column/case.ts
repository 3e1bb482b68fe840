import type { Case } from '../case.ts'

export default {
  title: 'numbered keys, column by column, and vanilla put one before them: what mine changed is asked, or told',
  conflicts: [{ key: 'Gear/Load3', kind: 'two-values', perhaps: { key: 'Gear/Load4' } }],
  notes: ['carry/other-number'],
} satisfies Case
