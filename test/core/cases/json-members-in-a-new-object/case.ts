import type { Case } from '../case.ts'

export default {
  title: 'members that vanilla put into an object of their own keep the edits of mine there',
  conflicts: [],
  notes: ['carry/wrapped'],
} satisfies Case
