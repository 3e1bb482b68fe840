import type { Case } from '../case.ts'

export default {
  title: 'keys before any section, blank values, quotes and colons',
  conflicts: [],
} satisfies Case
