import type { Case } from '../case.ts'

export default {
  title: 'vanilla replaces entities, and an entry of mine uses one that is gone',
  conflicts: [],
  notes: ['carry/declaration-kept'],
} satisfies Case
