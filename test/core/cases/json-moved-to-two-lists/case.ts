import type { Case } from '../case.ts'

export default {
  title: 'each side moves an entry to another list: it stands in both, and is asked',
  conflicts: [{ key: 'east[diver]', kind: 'gone-in-mine' }],
} satisfies Case
