import type { Case } from '../case.ts'

export default {
  title: 'of two steps that are equal mine dropped the first, and vanilla adds one behind the second',
  conflicts: [],
  changes: ['mine removed step[wait]~2', 'vanilla added step[ring]'],
} satisfies Case
