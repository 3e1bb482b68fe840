import type { Case } from '../case.ts'

export default {
  title: 'which of two equal lines mine dropped a line of another name in their place does not tell',
  conflicts: [{ key: 'cutter/crew', kind: 'two-values' }],
} satisfies Case
