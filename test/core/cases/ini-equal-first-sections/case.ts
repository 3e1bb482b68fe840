import type { Case } from '../case.ts'

export default {
  title: 'a section that vanilla has first and mine has second stands behind the blank line of mine, in a repeated carry, too',
  conflicts: [],
} satisfies Case
