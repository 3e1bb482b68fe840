import type { Case } from '../case.ts'

export default {
  title: 'vanilla has two of a list in another, one of which mine had dropped: moved, or put there anew? It is asked',
  conflicts: [{ key: 'east[diver]', kind: 'gone-in-mine', perhaps: { key: 'west[diver]' } }],
} satisfies Case
