import type { Case } from '../case.ts'

export default {
  title: 'what vanilla adds follows the entry that mine replaced in its place',
  conflicts: [],
} satisfies Case
