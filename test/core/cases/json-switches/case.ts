import type { Case } from '../case.ts'

export default {
  title: 'switches are told by their place',
  conflicts: [],
  changes: ['vanilla changed lit[4]', 'mine changed lit[2]'],
} satisfies Case
