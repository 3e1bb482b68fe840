import type { Case } from '../case.ts'

export default {
  title: 'each side takes the name of another entry away',
  conflicts: [],
} satisfies Case
