import type { Case } from '../case.ts'

export default {
  title: 'rows of a pattern keep their places',
  conflicts: [],
  changes: ['vanilla changed net[1]', 'mine changed net[0]'],
} satisfies Case
