import type { Case } from '../case.ts'

export default {
  title: 'mine has what vanilla added and dropped another that shares nothing with it: that is not what it became',
  conflicts: [],
} satisfies Case
