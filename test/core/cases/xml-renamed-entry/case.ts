import type { Case } from '../case.ts'

export default {
  title: 'an entry that vanilla renamed is known again beyond doubt, with the edits in it',
  conflicts: [],
  changes: ['vanilla renamed wreck["Grey Widow of Ardle"]', 'mine changed wreck["Grey Widow of Ardle"]/crew'],
  notes: ['carry/taken-for-one'],
} satisfies Case
