import type { Case } from '../case.ts'

export default {
  title: 'where vanilla numbered entries anew, one that mine gave another label is found by the number that it kept',
  conflicts: [],
  notes: ['carry/taken-for-one'],
} satisfies Case
