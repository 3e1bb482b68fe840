import type { Case } from '../case.ts'

export default {
  title: 'a comment above a section that reads as a key stays with the section',
  conflicts: [],
  changes: ['vanilla changed dive/deepest', 'mine changed bell/air'],
} satisfies Case
