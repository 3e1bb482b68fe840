import type { Case } from '../case.ts'

export default {
  title: 'what mine removed stays removed where the list has what vanilla brought already',
  conflicts: [],
} satisfies Case
