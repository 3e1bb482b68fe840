import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts two keys of another name in the place of one that mine doubled: the question shows the names',
  conflicts: [{ key: 'swell', kind: 'two-values' }],
} satisfies Case
