import type { Case } from '../case.ts'

export default {
  title: 'vanilla drops a DOCTYPE whose entity an entry of mine uses',
  conflicts: [],
  changes: ['vanilla removed !DOCTYPE', 'vanilla changed tip[1]', 'mine added tip[harbour]'],
  notes: ['carry/declaration-kept'],
} satisfies Case
