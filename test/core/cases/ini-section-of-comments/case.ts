import type { Case } from '../case.ts'

export default {
  title: 'a section that is all comments, of which vanilla moves one and mine makes one live',
  conflicts: [],
  changes: ['mine added dive/depth', 'mine changed boat/crew'],
} satisfies Case
