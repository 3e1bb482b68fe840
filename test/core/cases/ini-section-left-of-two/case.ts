import type { Case } from '../case.ts'

export default {
  title: 'of two sections of one name mine left one and commented the other out: those that vanilla adds come in',
  conflicts: [],
  changes: ['mine changed gear[rope]/label', 'mine removed gear[lamp]', 'vanilla added gear[knife]', 'vanilla added gear[net]'],
} satisfies Case
