import type { Case } from '../case.ts'

export default {
  title: 'plain elements that are equal are aligned, not counted',
  conflicts: [],
} satisfies Case
