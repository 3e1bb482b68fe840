import type { Case } from '../case.ts'

export default {
  title: 'what mine added to a list goes into the element into which vanilla put the rest of it',
  conflicts: [],
  notes: ['carry/wrapped'],
} satisfies Case
