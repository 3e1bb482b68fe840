import type { Case } from '../case.ts'

export default {
  title: 'each side adds a section before the last comment of the file',
  conflicts: [],
  changes: ['vanilla added smack', 'mine added hulk'],
} satisfies Case
