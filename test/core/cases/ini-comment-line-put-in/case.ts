import type { Case } from '../case.ts'

export default {
  title: 'a line put into a block of comments of which vanilla rewrote others',
  conflicts: [],
  changes: ['mine changed sea'],
} satisfies Case
