import type { Case } from '../case.ts'

export default {
  title: 'numbers that vanilla gave anew behind an entry that it put in tell nothing, and what mine dropped stays dropped',
  conflicts: [],
  changes: ['vanilla added finds[bell]', 'vanilla changed finds[silt]/id', 'vanilla changed finds[reef]/id', 'mine changed finds[silt]/worth', 'mine added finds[reef]/note', 'mine removed finds[winch]'],
} satisfies Case
