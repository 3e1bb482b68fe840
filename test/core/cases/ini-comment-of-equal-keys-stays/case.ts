import type { Case } from '../case.ts'

export default {
  title: "a comment above equal keys that vanilla dropped stands apart in new: it is not lost with mine of them",
  conflicts: [],
} satisfies Case
