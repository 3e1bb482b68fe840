import type { Case } from '../case.ts'

export default {
  title: 'all sections get one suffix and one goes: what is little alike is asked, as ever',
  notes: ['carry/taken-for-one', 'carry/taken-for-one'],
  conflicts: [
    { key: 'cutter', kind: 'gone-in-vanilla', perhaps: { key: 'cutter_mk2' } },
    { key: 'raft', kind: 'gone-in-vanilla' },
  ],
} satisfies Case
