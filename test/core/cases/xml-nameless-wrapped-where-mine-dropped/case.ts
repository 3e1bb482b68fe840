import type { Case } from '../case.ts'

export default {
  title: 'an entry without a name that mine removed does not come back in the element into which vanilla put all',
  conflicts: [],
  notes: ['carry/wrapped'],
} satisfies Case
