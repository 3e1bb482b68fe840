import type { Case } from '../case.ts'

export default {
  title: 'entries whose names number them are those they were, where vanilla changed all of them alike',
  conflicts: [],
  changes: [
    'vanilla changed Buoy1/width',
    'vanilla changed Buoy2/width',
    'mine changed Buoy1/hits',
    'mine changed Buoy2/sort',
  ],
} satisfies Case
