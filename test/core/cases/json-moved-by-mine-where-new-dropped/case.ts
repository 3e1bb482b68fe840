import type { Case } from '../case.ts'

export default {
  title: 'an entry with an id follows its removal, though another value names its siblings',
  conflicts: [],
  notes: ['carry/dropped-away'],
} satisfies Case
