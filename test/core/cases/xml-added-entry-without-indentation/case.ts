import type { Case } from '../case.ts'

export default {
  title: 'what vanilla adds without indentation is indented as mine, and its blank lines stay empty',
  conflicts: [],
} satisfies Case
