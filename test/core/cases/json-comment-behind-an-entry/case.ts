import type { Case } from '../case.ts'

export default {
  title: 'what stands in a comment behind an entry, on its line, is no entry in comments',
  conflicts: [],
  changes: ['mine added b'],
} satisfies Case
