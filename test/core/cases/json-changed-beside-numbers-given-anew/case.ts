import type { Case } from '../case.ts'

export default {
  title: 'where vanilla numbered entries anew, one that mine changed all through is found by the number that it kept',
  conflicts: [],
  notes: ['carry/numbered-anew'],
} satisfies Case
