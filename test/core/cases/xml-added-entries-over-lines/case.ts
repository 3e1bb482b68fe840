import type { Case } from '../case.ts'

export default {
  title: 'what vanilla adds is fitted line by line: no blank line gets blanks, and no value over lines changes',
  conflicts: [],
} satisfies Case
