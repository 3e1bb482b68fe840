import type { Case } from '../case.ts'

export default {
  title: 'elements that are key and value in turn stay together',
  conflicts: [],
} satisfies Case
