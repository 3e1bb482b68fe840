import type { Case } from '../case.ts'

export default {
  title: 'a key that is repeated is a list; where both extend it, vanilla stands first',
  conflicts: [],
  changes: ['vanilla added weather/front~4', 'mine added weather/front~3', 'vanilla changed weather/storm_every'],
} satisfies Case
