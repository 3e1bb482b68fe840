import type { Case } from '../case.ts'

export default {
  title: 'vanilla wraps all entries in a new element, and the edits follow',
  conflicts: [],
  changes: ['mine changed group/find[bell]/@worth', 'vanilla changed group/find[bell]/@weight', 'vanilla moved group'],
  notes: ['carry/wrapped'],
} satisfies Case
