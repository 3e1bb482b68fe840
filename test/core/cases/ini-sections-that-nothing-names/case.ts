import type { Case } from '../case.ts'

export default {
  title: 'sections of one name that nothing names are known by what they hold, and one that vanilla puts between them takes no edit',
  conflicts: [],
  changes: ['vanilla added wreck~4', 'mine changed wreck~2/silt', 'vanilla changed wreck~3/depth'],
} satisfies Case
