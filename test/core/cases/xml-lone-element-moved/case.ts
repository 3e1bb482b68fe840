import type { Case } from '../case.ts'

export default {
  title: 'an edit follows an element that stands alone and that vanilla put into another',
  conflicts: [],
  notes: ['carry/moved-away'],
} satisfies Case
