import type { Case } from '../case.ts'

export default {
  title: 'mine commented an entry out at the margin, and vanilla adds one with others in it: it is indented as the live ones are',
  conflicts: [],
  changes: ['mine removed part[lamp]', 'vanilla added part[dial]'],
} satisfies Case
