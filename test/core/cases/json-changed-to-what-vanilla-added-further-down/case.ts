import type { Case } from '../case.ts'

export default {
  title: 'what mine made of an entry is what vanilla added further down: what both have in between is no question',
  conflicts: [{ key: 'gear[0]', kind: 'two-values' }],
} satisfies Case
