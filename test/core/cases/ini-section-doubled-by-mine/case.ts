import type { Case } from '../case.ts'

export default {
  title: 'a section that mine doubled and vanilla put two others in the place of stays, and is one question with them',
  conflicts: [{ key: 'skiff', kind: 'two-values' }],
} satisfies Case
