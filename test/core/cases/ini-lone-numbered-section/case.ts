import type { Case } from '../case.ts'

export default {
  title: 'vanilla puts a boat before the only one, which gets the next number: the edit is asked, it is not the new boat’s',
  conflicts: [{ key: 'Boat1', kind: 'two-values', perhaps: { key: 'Boat2' } }],
} satisfies Case
