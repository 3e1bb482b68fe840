import type { Case } from '../case.ts'

export default {
  title: 'vanilla moves an entry and adds one behind it, and mine dropped the one that moved: the new one stands where vanilla has it',
  conflicts: [],
  changes: ['mine removed find[rope]', 'vanilla added find[buoy]'],
} satisfies Case
