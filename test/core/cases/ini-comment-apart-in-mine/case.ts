import type { Case } from '../case.ts'

export default {
  title: 'a comment stands apart in mine and above an entry in new, where both wrote another: it is not lost between the two',
  conflicts: [],
  notes: [],
} satisfies Case
