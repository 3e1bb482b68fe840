import type { Case } from '../case.ts'

export default {
  title: 'vanilla brought a DOCTYPE and mine a declaration, which stands before all else',
  conflicts: [],
} satisfies Case
