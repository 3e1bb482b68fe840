import type { Case } from '../case.ts'

export default {
  title: 'how far the lines of a text are indented is form, but for what is marked as it stands',
  conflicts: [{ key: 'crew/note', kind: 'two-values' }],
  changes: ['vanilla changed crew/tools', 'mine changed crew/size'],
} satisfies Case
