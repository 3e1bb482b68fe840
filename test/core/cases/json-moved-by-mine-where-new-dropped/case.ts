import type { Case } from '../case.ts'

export default {
  title: 'mine has in another list what vanilla dropped: its id is known, though another value names its siblings',
  conflicts: [{ key: 'hold["the tar bed"]', kind: 'gone-in-vanilla', perhaps: { key: 'deck["the tar bed"]' } }],
} satisfies Case
