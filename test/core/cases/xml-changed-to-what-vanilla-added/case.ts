import type { Case } from '../case.ts'

export default {
  title: 'what mine made of an entry is what vanilla added beside it: which of the two it is, is asked',
  conflicts: [{ key: 'dict~2', kind: 'two-values' }],
} satisfies Case
