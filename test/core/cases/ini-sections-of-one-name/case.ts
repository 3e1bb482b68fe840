import type { Case } from '../case.ts'

export default {
  title: 'sections that share a name are told by their ids: only the lamp that both changed is asked',
  conflicts: [{ key: 'gear[lamp]/light', kind: 'two-values' }],
  changes: ['mine changed Gear[rope]/label', 'vanilla changed Gear[rope]/length', 'vanilla added gear[knife]', 'mine removed gear[net]'],
} satisfies Case
