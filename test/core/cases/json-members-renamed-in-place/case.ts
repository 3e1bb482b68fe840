import type { Case } from '../case.ts'

export default {
  title: 'members that a side renamed in their places are named in what is asked, where they hold the same',
  conflicts: [
    { key: 'lampGlow', kind: 'gone-in-vanilla', perhaps: { key: 'lampShine' } },
    { key: 'depths', kind: 'gone-in-vanilla', perhaps: { key: 'levels' } },
    { key: 'crew', kind: 'gone-in-vanilla' },
  ],
} satisfies Case
