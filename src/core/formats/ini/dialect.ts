/** What a family of INI files allows beside sections and `name = value`; inferred from vanilla's own files. */
export interface IniDialect {
  /** What parts a name from its value: the first of these that a line has; a blank where neither is used. */
  separators: readonly ('=' | ':' | ' ')[]
  /** Whether a line may be a name alone. */
  bareNames: boolean
  /** Whether ` ;` or ` #` after a value begins a comment. */
  inlineComments: boolean
  /** Whether `//` at the start of a line begins a comment. */
  slashComments: boolean
  /** Whether a value that opens a brace goes on until the brace is closed. */
  braces: boolean
  /** What a quote that is not closed on its line is: an error, a value over lines, or a character. */
  openQuotes: 'error' | 'lines' | 'literal'
}

/** What holds where vanilla's files show nothing else. */
const PLAIN: IniDialect = {
  separators: ['=', ':'],
  bareNames: false,
  inlineComments: false,
  slashComments: false,
  braces: false,
  openQuotes: 'error',
}

interface Counts {
  equals: number
  colon: number
  bare: number
  bareOfTwoWords: number
  inline: number
  inlineAfterWord: number
  slashes: number
  openBraces: number
  openQuotes: number
  closedLater: number
}

/** The dialect of files, judged by all their lines together. */
export function inferIniDialect(sources: readonly string[]): IniDialect {
  const counts: Counts = {
    equals: 0,
    colon: 0,
    bare: 0,
    bareOfTwoWords: 0,
    inline: 0,
    inlineAfterWord: 0,
    slashes: 0,
    openBraces: 0,
    openQuotes: 0,
    closedLater: 0,
  }
  for (const source of sources) countLines(source, counts)
  return dialectOf(counts)
}

function dialectOf(counts: Counts): IniDialect {
  const { equals, colon, bare } = counts
  const byBlank = equals + colon === 0 && bare > 0 && counts.bareOfTwoWords >= bare * 0.8
  return {
    separators: byBlank
      ? [' ']
      : colon > equals
        ? [':', '=']
        : equals > 0 && colon === 0
          ? ['=']
          : PLAIN.separators,
    bareNames: byBlank || bare > 0,
    inlineComments: counts.inline >= 2 && counts.inlineAfterWord >= counts.inline * 0.8,
    slashComments: counts.slashes > 0,
    braces: counts.openBraces > 0,
    openQuotes: counts.openQuotes === 0 ? 'error' : counts.closedLater > 0 ? 'lines' : 'literal',
  }
}

const SECTION = /^\[[^\]]+\]/
const COMMENT = /^([;#]|\/\/)/

function countLines(source: string, counts: Counts): void {
  const lines = source.split(/\r\n|\r|\n/)
  let depth = 0
  let quoteFrom = -1
  // whether the last line was a name whose value may stand below it
  let isAwaited = false
  for (const [i, raw] of lines.entries()) {
    const line = raw.trim()
    if (depth > 0) depth += COMMENT.test(line) ? 0 : braceBalance(line)
    else if (isAwaited && line.startsWith('{')) {
      counts.openBraces++
      depth = braceBalance(line)
      isAwaited = false
    } else if (quoteFrom >= 0) {
      if (line.includes('"')) counts.closedLater++
      if (line.includes('"') || i - quoteFrom > 40) quoteFrom = -1
    } else if (line.startsWith('//')) counts.slashes++
    else if (line !== '' && !COMMENT.test(line) && !SECTION.test(line)) {
      const value = countLine(line, /^\s/.test(raw), counts)
      isAwaited = value === '' && /[=:]$/.test(line)
      if (value.startsWith('{') && braceBalance(value) > 0) {
        counts.openBraces++
        depth = braceBalance(value)
      } else if (value.startsWith('"') && !value.includes('"', 1)) {
        counts.openQuotes++
        quoteFrom = i
      }
    }
  }
}

/** Counts one line that is no comment and no section; gives its value. */
function countLine(line: string, indented: boolean, counts: Counts): string {
  const equals = line.indexOf('=')
  const colon = line.search(/:(\s|$)/)
  const at = equals >= 0 ? equals : colon
  if (equals >= 0 && (colon < 0 || equals < colon || /\s/.test(line.slice(0, colon))))
    counts.equals++
  else if (colon > 0 && !/\s/.test(line.slice(0, colon).trim())) counts.colon++
  else if (!indented) {
    counts.bare++
    if (/^\S+\s+\S/.test(line)) counts.bareOfTwoWords++
    return ''
  }
  const value = at < 0 ? '' : line.slice(at + 1).trim()
  const comment = /\s[;#]\s*\S/.exec(value)
  if (comment !== null && !value.startsWith('"')) {
    counts.inline++
    if (!/[\s;#]/.test(value.slice(0, comment.index).trim())) counts.inlineAfterWord++
  }
  return value
}

const QUOTE = 34
const OPEN_BRACE = 123
const CLOSE_BRACE = 125

/** Counts braces of a text that is looked at piece by piece, those in quotes aside. */
export class BraceCount {
  /** How many are open. */
  open = 0
  private inQuotes = false

  /** Goes on with the code units from one offset to before another. */
  add(source: string, from: number, to: number): void {
    for (let at = from; at < to; at++) {
      const code = source.charCodeAt(at)
      if (code === QUOTE) this.inQuotes = !this.inQuotes
      else if (this.inQuotes) continue
      else if (code === OPEN_BRACE) this.open++
      else if (code === CLOSE_BRACE) this.open--
    }
  }
}

function braceBalance(text: string): number {
  const braces = new BraceCount()
  braces.add(text, 0, text.length)
  return braces.open
}

/** The dialect in a few words, for the report; empty where it is plain. */
export function describeIni(dialect: IniDialect): string {
  const said: string[] = []
  if (dialect.separators[0] === ':') said.push('name: value')
  if (dialect.separators[0] === ' ') said.push('name value')
  if (dialect.bareNames && dialect.separators[0] !== ' ') said.push('names without value')
  if (dialect.inlineComments) said.push('comments after values')
  if (dialect.slashComments) said.push('// comments')
  if (dialect.braces) said.push('values in braces over lines')
  if (dialect.openQuotes === 'lines') said.push('quoted values over lines')
  if (dialect.openQuotes === 'literal') said.push('quotes as characters')
  return said.join(', ')
}
