import type { Case } from '../case.ts'

export default {
  title: 'a section that both sides gave another name stands twice, and it is asked whether it is one',
  conflicts: [{ key: '"old pier"', kind: 'gone-in-vanilla', perhaps: { key: '"north pier"' } }],
} satisfies Case
