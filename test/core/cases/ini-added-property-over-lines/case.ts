import type { Case } from '../case.ts'

export default {
  title: 'a property that vanilla adds in another indentation keeps the lines that its value goes on in',
  conflicts: [],
} satisfies Case
