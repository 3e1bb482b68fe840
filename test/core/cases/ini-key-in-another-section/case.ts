import type { Case } from '../case.ts'

export default {
  title: 'a key that vanilla put into another section is no more than perhaps the same',
  conflicts: [{ key: 'Lamps/Charge', kind: 'gone-in-vanilla', perhaps: { key: 'Gear/Charge' } }],
} satisfies Case
