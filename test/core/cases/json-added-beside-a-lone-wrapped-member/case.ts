import type { Case } from '../case.ts'

export default {
  title: 'what mine added beside a lone member that vanilla wrapped and changed is told once',
  conflicts: [],
  notes: ['carry/added-alone'],
} satisfies Case
