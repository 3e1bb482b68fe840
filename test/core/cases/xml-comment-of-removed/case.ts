import type { Case } from '../case.ts'

export default {
  title: 'an entry that vanilla dropped takes its own comment along, unless mine has edited that',
  conflicts: [],
  changes: ['vanilla removed find[rope]', 'vanilla removed find[tallow]'],
  notes: ['carry/comment-of-removed'],
} satisfies Case
