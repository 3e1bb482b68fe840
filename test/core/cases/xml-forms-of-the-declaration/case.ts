import type { Case } from '../case.ts'

export default {
  title: 'a declaration and a DOCTYPE are compared by what they say, not by quotes and capitals',
  conflicts: [],
  changes: ['vanilla changed swell'],
} satisfies Case
