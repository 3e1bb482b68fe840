import type { Case } from '../case.ts'

export default {
  title: "an element that stands alone since others were dropped has not come from elsewhere",
  conflicts: [{ key: 'deck/find~2', kind: 'gone-in-vanilla' }],
} satisfies Case
