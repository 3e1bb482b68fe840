import type { Case } from '../case.ts'

export default {
  title: 'mine dropped a boat and gave the rest the next numbers, and vanilla added one at the end: no number stands between, which is told',
  conflicts: [],
  notes: ['carry/out-of-step'],
} satisfies Case
