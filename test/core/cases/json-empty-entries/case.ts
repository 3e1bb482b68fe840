import type { Case } from '../case.ts'

export default {
  title: 'of entries with nothing in them mine fills one and vanilla adds another',
  conflicts: [],
  changes: ['vanilla added racks[3]', 'mine added racks[1]/size'],
} satisfies Case
