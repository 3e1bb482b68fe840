import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts a section of another id beside the only one of its name, which mine changed: nothing is asked',
  conflicts: [],
  changes: ['mine changed gear[rope]/label', 'vanilla added gear[lamp]'],
} satisfies Case
