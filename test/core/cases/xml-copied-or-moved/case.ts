import type { Case } from '../case.ts'

export default {
  title: 'vanilla changed a nameless entry, and mine has it as it was further down and another in its place',
  conflicts: [{ key: 'item', kind: 'two-values' }],
} satisfies Case
