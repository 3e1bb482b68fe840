import type { Case } from '../case.ts'

export default {
  title: 'a comment over lines, of which vanilla rewrote one and mine added one',
  conflicts: [],
} satisfies Case
