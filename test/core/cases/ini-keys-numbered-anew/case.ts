import type { Case } from '../case.ts'

export default {
  title: 'keys whose numbers tell what they are of, and vanilla put one before them: what mine changed and put in is asked',
  conflicts: [
    {
      key: 'Harbour/Boat3Net',
      kind: 'gone-in-vanilla',
      perhaps: { key: 'Harbour/Boat4Name' },
    },
    {
      key: 'Harbour/Boat2Crew',
      kind: 'two-values',
      perhaps: { key: 'Harbour/Boat3Crew' },
    },
  ],
} satisfies Case
