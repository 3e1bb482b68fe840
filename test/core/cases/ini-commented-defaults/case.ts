import type { Case } from '../case.ts'

export default {
  title: 'a block of commented defaults: vanilla changes one and adds one, mine has made one live',
  conflicts: [],
  changes: ['mine added tides/fog'],
} satisfies Case
