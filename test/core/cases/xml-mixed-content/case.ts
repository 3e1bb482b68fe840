import type { Case } from '../case.ts'

export default {
  title: 'text beside child elements is merged run by run',
  conflicts: [],
} satisfies Case
