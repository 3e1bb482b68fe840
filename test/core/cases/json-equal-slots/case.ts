import type { Case } from '../case.ts'

export default {
  title: 'two slots hold the same, and each side fills another',
  conflicts: [],
  changes: ['vanilla changed belt[1]', 'mine changed belt[0]'],
} satisfies Case
