import type { Case } from '../case.ts'

export default {
  title: 'a nameless entry that vanilla moved is known again by what it alone has',
  conflicts: [],
} satisfies Case
