import type { Case } from '../case.ts'

export default {
  title: 'a section that mine commented out is named where vanilla gave all sections another name',
  conflicts: [],
  notes: ['carry/perhaps-renamed'],
} satisfies Case
