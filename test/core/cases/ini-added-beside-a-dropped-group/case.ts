import type { Case } from '../case.ts'

export default {
  title: 'what vanilla adds beside keys that mine dropped may belong to these, where only order holds them together',
  conflicts: [{ key: 'Gear/Load~3', kind: 'gone-in-mine' }],
} satisfies Case
