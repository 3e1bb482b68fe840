import type { Case } from '../case.ts'

export default {
  title: 'what stands first on the line of its container stays there, though the other side has nothing like it',
  conflicts: [],
} satisfies Case
