import type { Value } from './value.ts'

const OF_TEXT = 2

/** How much is in a value: a number or a literal says one thing, a text as much as two of them. */
export function weightOf({ text = '', parts }: Value): number {
  return parts.reduce((sum, part) => sum + weightOf(part), weightOfText(text))
}

function weightOfText(text: string): number {
  if (text.trim() === '') return 0
  return SAYS_LITTLE.test(text) ? 1 : OF_TEXT
}

const SAYS_LITTLE = /^"?[-+.0-9]*(e-?[0-9]+)?$|^(true|false|null)$/
