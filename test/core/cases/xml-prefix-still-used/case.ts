import type { Case } from '../case.ts'

export default {
  title: 'vanilla drops a prefix that an entry of mine has, and one that none has',
  conflicts: [],
  notes: ['carry/added-alone', 'carry/declaration-kept'],
} satisfies Case
