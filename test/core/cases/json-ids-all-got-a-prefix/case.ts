import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts one text before every id: they are the entries that they were, and edits follow',
  conflicts: [],
  notes: ['carry/taken-for-one', 'carry/taken-for-one', 'carry/taken-for-one'],
} satisfies Case
