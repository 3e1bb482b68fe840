import type { Case } from '../case.ts'

export default {
  title: 'a comment that vanilla moved away from an entry is not lost where mine changed that entry',
  conflicts: [],
  changes: ['mine changed a'],
} satisfies Case
