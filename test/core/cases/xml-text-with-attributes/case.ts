import type { Case } from '../case.ts'

export default {
  title: 'an element with attributes and a text has its text as its value',
  conflicts: [{ key: 'sign[a]', kind: 'two-values' }],
  changes: ['vanilla changed sign[a]/@lit', 'mine changed sign[b]'],
} satisfies Case
