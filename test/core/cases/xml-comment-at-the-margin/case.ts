import type { Case } from '../case.ts'

export default {
  title: 'entries tell the indentation, not a comment at the margin above the only one',
  conflicts: [],
  changes: ['vanilla added buoy[reef]'],
} satisfies Case
