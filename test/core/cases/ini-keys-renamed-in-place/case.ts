import type { Case } from '../case.ts'

export default {
  title:
    'keys that vanilla renamed in their places are named in what is asked; not those of one value, nor what both dropped',
  conflicts: [
    { key: 'Crew/MaxDivers', kind: 'gone-in-vanilla', perhaps: { key: 'Crew/MaxCrew' } },
    { key: 'Crew/Tenders', kind: 'gone-in-vanilla', perhaps: { key: 'Crew/Deckhands' } },
    { key: 'Lamps/Bow', kind: 'gone-in-vanilla' },
    { key: 'Tide/Height', kind: 'gone-in-mine', perhaps: { key: 'Tide/Rise' } },
  ],
  notes: [],
} satisfies Case
