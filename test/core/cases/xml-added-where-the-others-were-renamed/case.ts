import type { Case } from '../case.ts'

export default {
  title: 'an entry that mine added stands alone where vanilla gave all others another name, and that is told',
  conflicts: [],
  notes: ['carry/added-alone'],
} satisfies Case
