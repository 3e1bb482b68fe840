import type { Case } from '../case.ts'

export default {
  title: 'a separator may stand on the line below the name, further in',
  conflicts: [],
  changes: ['vanilla changed sea/swell', 'mine changed sea/tide'],
} satisfies Case
