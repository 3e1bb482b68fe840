import type { Case } from '../case.ts'

export default {
  title: 'comments that vanilla moved stand where vanilla has them, if mine moved none',
  conflicts: [],
  changes: ['mine changed dive/lamps'],
} satisfies Case
