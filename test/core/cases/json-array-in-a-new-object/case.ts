import type { Case } from '../case.ts'

export default {
  title: 'an array that vanilla put into an object keeps the edits of mine',
  conflicts: [],
  notes: ['carry/wrapped'],
} satisfies Case
