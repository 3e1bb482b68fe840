import type { Case } from '../case.ts'

export default {
  title: 'a lone element of another id is another entry: vanilla\'s change does not go to it',
  conflicts: [{ key: 'hold/find[hook-1]', kind: 'gone-in-mine' }],
} satisfies Case
