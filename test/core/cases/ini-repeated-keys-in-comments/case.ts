import type { Case } from '../case.ts'

export default {
  title: 'one of several commented keys of one name is made live, where vanilla changes the words above and adds another',
  conflicts: [],
  changes: ['mine added crane/load'],
} satisfies Case
