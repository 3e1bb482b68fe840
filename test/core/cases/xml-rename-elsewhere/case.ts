import type { Case } from '../case.ts'

export default {
  title: 'two defaults and another place are no rename',
  conflicts: [{ key: 'find[oil-lamp]', kind: 'gone-in-vanilla' }],
  changes: ['vanilla added find[bandage]'],
} satisfies Case
