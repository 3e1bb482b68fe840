import type { Case } from '../case.ts'

export default {
  title: 'vanilla put another step in the place of one that mine had changed',
  conflicts: [{ key: 'steps[1]', kind: 'gone-in-vanilla' }],
  changes: ['vanilla added steps[1]~2'],
} satisfies Case
