import type { Case } from '../case.ts'

export default {
  title: 'a self-closing element gets content and a close tag; attributes keep their quotes',
  conflicts: [],
  changes: ['mine added wreck[tern]/@depth', 'vanilla added wreck[tern]/hold', 'vanilla changed wreck[gannet]/note'],
} satisfies Case
