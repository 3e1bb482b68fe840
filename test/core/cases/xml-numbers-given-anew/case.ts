import type { Case } from '../case.ts'

export default {
  title: 'nameless entries whose numbers vanilla gave anew are told by what else they hold',
  conflicts: [],
  notes: ['carry/numbered-anew'],
} satisfies Case
