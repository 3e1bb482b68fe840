import type { Case } from '../case.ts'

export default {
  title: 'where a document holds both names there is no rename',
  conflicts: [{ key: 'buoy[west]/@light', kind: 'two-new' }],
} satisfies Case
