import type { Case } from '../case.ts'

export default {
  title: 'comments above, behind and apart are carried each on its own',
  conflicts: [],
} satisfies Case
