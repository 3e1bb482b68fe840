import type { Case } from '../case.ts'

export default {
  title: 'whether numbers were given anew, or one value each was changed, is asked',
  conflicts: [{ key: 'tides', kind: 'two-values' }],
  notes: ['carry/numbered-anew'],
} satisfies Case
