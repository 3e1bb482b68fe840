import type { Case } from '../case.ts'

export default {
  title: 'numbers in arrays of one length are told apart by their place, and 1.0 is 1',
  conflicts: [],
  changes: ['mine changed pier[0]', 'vanilla changed pier[1]'],
} satisfies Case
