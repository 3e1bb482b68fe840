import type { Case } from '../case.ts'

export default {
  title: 'a repeated key that each side replaces under another comment stays where it is',
  conflicts: [],
} satisfies Case
