import type { Side, Triple } from './sides.ts'
import { triple } from './sides.ts'
import { pickSide } from './pick.ts'

/** The line ends of a text: one kind throughout, several, or none at all. */
export type LineEnds = 'lf' | 'crlf' | 'cr' | 'mixed' | 'none'

export function lineEndsOf(text: string | undefined): LineEnds {
  if (text === undefined) return 'none'
  if (!text.includes('\r')) return text.includes('\n') ? 'lf' : 'none'
  const kinds = new Set(text.match(/\r\n|\r|\n/g))
  if (kinds.size > 1) return 'mixed'
  return kinds.has('\r\n') ? 'crlf' : 'cr'
}

/** A text whose line ends are all of one kind, with them made another; exact both ways. */
export function toLineEnds(text: string | undefined, ends: LineEnds): string | undefined {
  if (text === undefined || ends === 'mixed' || ends === 'none') return text
  const plain = text.includes('\r') ? text.replace(/\r\n?/g, '\n') : text
  if (ends === 'lf') return plain
  return plain.replace(/\n/g, ends === 'crlf' ? '\r\n' : '\r')
}

/** Whether a text's last line has a line end. */
export function endsLine(text: string): boolean {
  return /[\r\n]$/.test(text)
}

/**
 * The three-way choice of a form that holds line ends: where all differ, and two of them in their line
 * ends alone, those are taken for the same.
 */
export function pickForm(values: Triple<string | undefined>): Side | undefined {
  const [old, fresh, mine] = values
  if (old === fresh || old === mine || fresh === mine) return pickSide(values)
  return pickSide(triple((side) => toLineEnds(values[side], 'lf')))
}
