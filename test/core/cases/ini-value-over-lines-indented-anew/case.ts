import type { Case } from '../case.ts'

export default {
  title: 'how far the lines of a value are indented is form, but for those in quotes',
  conflicts: [{ key: 'Crew/Help', kind: 'two-values' }],
  changes: ['vanilla changed Crew/Tools', 'mine changed Crew/Size'],
} satisfies Case
