import type { Case } from '../case.ts'

export default {
  title: 'an entry of mine stands behind what vanilla added there, with the words above that',
  conflicts: [],
  changes: ['vanilla added reef', 'mine added wreck', 'vanilla moved silt'],
} satisfies Case
