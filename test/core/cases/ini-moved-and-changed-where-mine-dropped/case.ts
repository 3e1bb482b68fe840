import type { Case } from '../case.ts'

export default {
  title: 'a line that vanilla moved and changed, and mine dropped, is asked',
  conflicts: [{ key: 'Berths/Berth~5', kind: 'gone-in-mine' }],
} satisfies Case
