import type { Case } from '../case.ts'

export default {
  title: 'an edit follows a member that vanilla put into another object',
  conflicts: [],
  notes: ['carry/moved-away'],
} satisfies Case
