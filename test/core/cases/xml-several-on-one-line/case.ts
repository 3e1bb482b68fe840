import type { Case } from '../case.ts'

export default {
  title: 'an entry that vanilla added on the line of another stays there, as another does that mine added',
  conflicts: [],
  changes: ['vanilla added light[reef]', 'mine added light[wreck]', 'mine changed light[pier]/@every'],
} satisfies Case
