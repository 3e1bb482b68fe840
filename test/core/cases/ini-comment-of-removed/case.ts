import type { Case } from '../case.ts'

export default {
  title: 'a comment that vanilla kept from an entry it removed is not lost with mine of that entry',
  conflicts: [],
  changes: ['vanilla removed swell', 'mine changed sea/deep'],
} satisfies Case
