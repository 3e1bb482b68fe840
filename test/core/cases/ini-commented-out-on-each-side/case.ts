import type { Case } from '../case.ts'

export default {
  title: 'each side comments out another key, under a line that both have',
  conflicts: [],
  changes: ['mine removed sea/swell', 'vanilla removed sea/salt'],
} satisfies Case
