import type { Case } from '../case.ts'

export default {
  title: 'a key of no section that mine has stands before the section that vanilla put first',
  conflicts: [],
  changes: ['vanilla added hulk', 'mine added weather', 'mine changed ballast/stone'],
} satisfies Case
