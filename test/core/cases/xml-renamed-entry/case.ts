import type { Case } from '../case.ts'

export default {
  title: 'an entry whose identity vanilla changed is found again, with the edits in it',
  conflicts: [],
  changes: ['vanilla renamed wreck["Grey Widow of Ardle"]', 'mine changed wreck["Grey Widow of Ardle"]/crew'],
} satisfies Case
