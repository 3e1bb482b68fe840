import fc from 'fast-check'
import type { FormatName } from '../../../src/core/formats/index.ts'
import type { Dice } from './lists.ts'

/** What somebody does to a file with an editor: at which line, as a share of all, and what. */
export interface TextEdit {
  at: number
  to: number
  sort: (typeof SORTS)[number]
}

const SORTS = [
  'number',
  'word',
  'drop',
  'copy',
  'move',
  'comment',
  'blank',
  'indent',
  'block',
] as const

export const textEdits: fc.Arbitrary<TextEdit[]> = fc.array(
  fc.record({
    at: fc.double({ min: 0, max: 0.999, noNaN: true }),
    to: fc.double({ min: 0, max: 0.999, noNaN: true }),
    sort: fc.constantFrom(...SORTS),
  }),
  { maxLength: 6 },
)

/** Up to four edits, as dice have them. */
export function someEdits(roll: Dice): TextEdit[] {
  return Array.from({ length: roll(5) }, () => ({
    at: roll(1000) / 1000,
    to: roll(1000) / 1000,
    sort: SORTS[roll(SORTS.length)] ?? 'number',
  }))
}

const COMMENTED: Record<FormatName, (line: string) => string> = {
  xml: (line) => `<!-- ${line.trim().replace(/--/g, '==')} -->`,
  json: (line) => `// ${line.trim()}`,
  ini: (line) => `; ${line.trim()}`,
}

/** Two comments of the same words cannot be told apart once one of them is rewritten: none is copied. */
const IS_COMMENT = /^\s*(<!--|\/\/|;|#)/

interface PlacedEdit extends Pick<TextEdit, 'to' | 'sort'> {
  line: number
  target: number
  /** A word that stands nowhere else. */
  word: string
}

/** The lines that each edit means among those that the edits before it left, so many at either end left out. */
function* placed(
  edits: readonly TextEdit[],
  lines: readonly string[],
  margin: number,
  mark: string,
): Generator<PlacedEdit> {
  for (const [i, { at, to, sort }] of edits.entries()) {
    const place = (share: number): number =>
      margin + Math.floor(share * (lines.length - 2 * margin))
    yield { line: place(at), target: place(to), to, sort, word: `${mark}${i}` }
  }
}

/** A text after edits; what is written anew is marked with a word that stands nowhere else. */
export function editedText(
  text: string,
  edits: readonly TextEdit[],
  format: FormatName,
  mark: string,
): string {
  const lines = text.split('\n')
  for (const { line, target, to, sort, word } of placed(edits, lines, 0, mark)) {
    const here = lines[line] ?? ''
    if (sort === 'drop') lines.splice(line, 1)
    else if (sort === 'copy' && !IS_COMMENT.test(here)) lines.splice(target, 0, here)
    else if (sort === 'comment') lines[line] = COMMENTED[format](here)
    else if (sort === 'move') lines.splice(target, 0, ...lines.splice(line, 1))
    else if (sort === 'block')
      lines.splice(target, 0, ...lines.splice(line, 1 + Math.floor(to * 5)))
    else editLine(lines, line, sort, LAST_WORD, word)
  }
  return lines.join('\n')
}

/** The same where whole entries are dropped, copied, moved and put in comments, so that most texts stay well formed. */
export function editedEntries(
  text: string,
  edits: readonly TextEdit[],
  format: FormatName,
  mark: string,
): string {
  const lines = text.split('\n')
  // what the whole document stands in is no entry
  for (const { line, target, sort, word } of placed(edits, lines, 1, mark)) {
    const size = sizeOfEntry(lines, line, format)
    if (size === 0 || size * 2 > lines.length) continue
    const entry = lines.slice(line, line + size)
    if (sort === 'drop') lines.splice(line, size)
    else if (sort === 'copy' || sort === 'block') lines.splice(target, 0, ...entry)
    else if (sort === 'comment') lines.splice(line, size, ...inComments(entry, format))
    else if (sort === 'move') lines.splice(target, 0, ...lines.splice(line, size))
    else editLine(lines, line, sort, VALUE[format], word)
  }
  const edited = lines.join('\n')
  return format === 'json' ? withCommas(edited) : edited
}

const LAST_WORD = /[a-z]{4,}(?=[^a-z]*$)/

/** A word of a value. */
const VALUE: Record<FormatName, RegExp> = {
  xml: /(?<=["'>][^<>"']*)[a-z]+(?=[^<>"']*["'<])/i,
  json: /(?<=: *")[^"]+(?=")/,
  ini: /(?<=[=:].*)[a-z]+/i,
}

function editLine(
  lines: string[],
  line: number,
  sort: TextEdit['sort'],
  word: RegExp,
  mark: string,
): void {
  const here = lines[line] ?? ''
  if (sort === 'number') lines[line] = here.replace(/\b[0-9]+\b/, `70${mark.at(-1) ?? ''}`)
  else if (sort === 'word') lines[line] = here.replace(word, mark)
  else if (sort === 'blank') lines.splice(line, 0, '')
  else if (sort === 'indent') lines[line] = `  ${here}`
}

const OPENING: Record<FormatName, RegExp> = {
  xml: /<[a-z][^<>]*(?<!\/)>/gi,
  json: /[{[]/g,
  ini: /$^/g,
}
const CLOSING: Record<FormatName, RegExp> = { xml: /<\//g, json: /[}\]]/g, ini: /$^/g }

/** How many lines an entry takes that begins on a line; 0 where that closes what began before. */
function sizeOfEntry(lines: readonly string[], from: number, format: FormatName): number {
  let depth = 0
  for (let at = from; at < lines.length; at++) {
    const line = lines[at] ?? ''
    depth += [...line.matchAll(OPENING[format])].length - [...line.matchAll(CLOSING[format])].length
    if (depth < 0) return 0
    if (depth === 0) return at - from + 1
  }
  return 0
}

function inComments(entry: readonly string[], format: FormatName): string[] {
  if (format !== 'xml') return entry.map(COMMENTED[format])
  return entry.some((line) => line.includes('--')) ? [...entry] : ['<!--', ...entry, '-->']
}

/** JSON with commas between its values, and none behind the last. */
function withCommas(text: string): string {
  return text
    .replace(/,(\s*[}\]])/g, '$1')
    .replace(/([}\]"0-9el])(\s*\n\s*)(?=["{[0-9-])/g, '$1,$2')
}
