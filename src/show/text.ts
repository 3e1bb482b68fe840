import stringWidth from 'string-width'

/** Characters of one column, and the escapes that colour them: these need no tables of Unicode. */

const PLAIN = /^(?:[ -~·…→⏎]|\u001b\[[\d;]*m)*$/

const COLOURS = /\u001b\[[\d;]*m/g

/** A line that is longer than this is not read at one glance. */
export const MOST_WIDTH = 112

/** How many columns of a terminal a text takes. */
export function widthOf(text: string): number {
  return PLAIN.test(text) ? text.replace(COLOURS, '').length : stringWidth(text)
}

/** A value on one line: control characters made visible, and cut where it is long. */
export function oneLine(value: string, most = 60): string {
  return clip(visible(value), most)
}

/** So much of what long values have in common is shown before the place where they differ. */
const SHARED_SHOWN = 10

/** Values on one line each, cut so that it is seen where they differ; null stays null. */
export function apart(values: readonly (string | null)[], most: number): (string | null)[] {
  const lines = values.map((value) => value?.replace(/\s*\n\s*/g, ' ') ?? null)
  const there = lines.filter((line) => line !== null)
  const [first = ''] = there
  let shared = 0
  while (shared < first.length && there.every((line) => line[shared] === first[shared])) shared++
  const isCut = there.some((line) => line.length > most) && shared > 2 * SHARED_SHOWN
  const from = isCut ? shared - SHARED_SHOWN : 0
  return lines.map((line) =>
    line === null ? null : (from > 0 ? '…' : '') + oneLine(line.slice(from), most),
  )
}

/** A text with its control characters, and those that turn the direction of writing, made visible. */
export function visible(text: string): string {
  return text.replace(CONTROLS, shownControl)
}

const CONTROLS = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069]/g

/** A whole output for people: no control character of an input reaches the terminal as one. */
export function printable(output: string): string {
  return output.replace(CONTROLS, (character, at: number) => {
    if (character === '\n') return character
    const colour = /^\u001b\[[0-9;]*m/.test(output.slice(at, at + 20))
    return colour ? character : shownControl(character)
  })
}

function shownControl(character: string): string {
  if (character === '\n') return '⏎'
  if (character === '\r') return ''
  if (character === '\t') return ' '
  return `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`
}

/** Text cut to a width in terminal columns, with … where something is left out. */
export function clip(text: string, width: number): string {
  if (widthOf(text) <= width) return text
  let cut = ''
  for (const character of text) {
    if (widthOf(cut + character) > width - 1) break
    cut += character
  }
  return `${cut}…`
}

/** Text padded with blanks to a width in terminal columns. */
export function pad(text: string, width: number): string {
  return text + ' '.repeat(Math.max(0, width - widthOf(text)))
}

/** Words wrapped to a width, each line behind an indentation; a word that is longer stands alone. */
export function wrap(text: string, width: number, indent: string): string[] {
  const lines: string[] = []
  let line = ''
  for (const word of text.split(' ')) {
    if (line !== '' && widthOf(`${indent}${line} ${word}`) > width) {
      lines.push(indent + line.trimEnd())
      line = word
    } else line = line === '' ? word : `${line} ${word}`
  }
  return [...lines, indent + line]
}

/** A number as it is read: `12,345`. */
export function grouped(number: number): string {
  return String(number).replace(/\B(?=(?:\d{3})+$)/g, ',')
}

/** `1 file`, `3 files`; the plural is the noun with an s where it is not given. */
export function count(number: number, noun: string, plural = `${noun}s`): string {
  return `${grouped(number)} ${number === 1 ? noun : plural}`
}
