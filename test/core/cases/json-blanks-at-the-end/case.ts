import type { Case } from '../case.ts'

export default {
  title: 'what a file begins and ends in is form: nothing of mine is re-indented for it',
  conflicts: [],
  changes: ['vanilla changed a'],
} satisfies Case
