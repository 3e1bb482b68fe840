import type { Case } from '../case.ts'

export default {
  title: 'a copy of an entry under an own id does not get what vanilla changed in the entry',
  conflicts: [],
  changes: ['vanilla changed [d0]/air', 'mine added [own]', 'mine changed [d0]/name', 'mine changed [d0]/note', 'mine changed [d0]/team'],
} satisfies Case
