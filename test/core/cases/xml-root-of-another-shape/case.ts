import type { Case } from '../case.ts'

export default {
  title: 'vanilla renames the root and makes it a text, and mine changed what it held',
  conflicts: [{ key: '', kind: 'shape' }],
} satisfies Case
