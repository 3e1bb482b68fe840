import type { Case } from '../case.ts'

export default {
  title: 'each side drops another boat and gives the rest the next numbers: no number says which boat is meant, and all that differ are asked',
  conflicts: [
    { key: 'boat1', kind: 'two-values' },
    { key: 'boat2', kind: 'two-values', perhaps: { key: 'boat1' } },
  ],
} satisfies Case
