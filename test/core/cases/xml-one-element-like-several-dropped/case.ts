import type { Case } from '../case.ts'

export default {
  title: 'an element of mine that may be any of those that vanilla dropped stands once, and is asked',
  conflicts: [
    { key: 'deck/find', kind: 'gone-in-vanilla' },
    { key: 'hold/find', kind: 'gone-in-vanilla' },
  ],
} satisfies Case
