import type { Case } from '../case.ts'

export default {
  title: 'a value that became an object or a list is a conflict only where mine has changed it too',
  conflicts: [{ key: 'signals', kind: 'shape' }],
  changes: ['vanilla changed rest', 'mine changed night'],
} satisfies Case
