import type { Case } from '../case.ts'

export default {
  title: 'an entry of the operator\'s own never gets what vanilla changed in the one that it replaced',
  conflicts: [{ key: '[barge]', kind: 'gone-in-mine' }],
  changes: ['mine added [harbour-tug]'],
} satisfies Case
