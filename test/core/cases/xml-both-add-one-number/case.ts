import type { Case } from '../case.ts'

export default {
  title: 'both add an element of the next number: it is one key, and is asked, though other names stand inside',
  conflicts: [
    { key: 'boat2/@name', kind: 'two-new' },
    { key: 'boat2/@crew', kind: 'two-new' },
  ],
} satisfies Case
