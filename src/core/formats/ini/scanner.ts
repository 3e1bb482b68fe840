/*
 * A reader of INI, line by line; what is in [] depends on the dialect:
 *
 *   line     ::= blanks (comment | section | property)? line-end
 *   comment  ::= (';' | '#' | ['//']) …
 *   section  ::= '[' name ']' blanks comment?
 *   property ::= name (blanks ('=' | ':' | [blank]) blanks value)?
 *   value    ::= '"' … '"' blanks comment?  |  ['{' … '}' over lines]  |  … [blanks comment]
 *   A separator may also begin the line below its name, indented further.
 *   A value goes on in the next line after a backslash at the line's end, and in lines that are
 *   indented further and have no separator.
 *
 * A comment directly above a section's header belongs to that section. Behind the last property of a section
 * comments belong to the file from a section that stands in them on, and where a blank line parts them from the
 * section and no property stands in them or below them. Every other line belongs to the section above it.
 */
import { countLineEnds } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import { MAX_PROBLEMS } from '../../document/limits.ts'
import type { Problem } from '../../document/problem.ts'
import { Tree } from '../../document/tree.ts'
import type { IniDialect } from './dialect.ts'
import { BraceCount } from './dialect.ts'
import { iniProblems } from './problems.ts'

const LF = 10
const CR = 13
const SEMICOLON = 59
const HASH = 35
const OPEN_BRACKET = 91
const QUOTE = 34

/** A comment that reads as a header, and one that reads as a property. */
const COMMENTED_HEADER = /^(?:[;#]|\/\/)\s*\[[^\]]+\]\s*$/
const COMMENTED_PROPERTY = /^(?:[;#]|\/\/)\s*[^\s=:;#[][^=:]*[=:]/

/** A line that is a comment: where the line begins, and where the comment does and ends. */
interface CommentLine {
  from: number
  start: number
  end: number
}

/** Comments and blank lines, up to the next line that is neither. */
interface Comments {
  /** Comment lines that follow each other, without a blank line between them. */
  runs: readonly (readonly CommentLine[])[]
  /** Where the line begins that ends them, and what it is. */
  end: number
  next: 'section' | 'property' | 'nothing'
}

export class IniScanner {
  readonly tree: Tree
  readonly problems: Problem[] = []
  private readonly source: string
  private section = -1

  constructor(
    source: string,
    private readonly dialect: IniDialect,
  ) {
    this.source = source
    this.tree = new Tree(source)
  }

  /** Reads the whole source into `tree`; what is wrong is in `problems`. */
  read(): void {
    const { source, tree } = this
    const document = tree.open(Kind.Document, 0, 0, 0)
    this.rejectNul()
    let at = 0
    while (at < source.length && this.problems.length < MAX_PROBLEMS) at = this.line(at)
    this.closeSection(source.length)
    tree.close(document, source.length, source.length)
  }

  private rejectNul(): void {
    const at = this.source.indexOf('\0')
    if (at >= 0) this.problems.push(iniProblems.nulCharacter({ start: at, end: at + 1 }))
  }

  private line(from: number): number {
    const { source } = this
    const end = lineEnd(source, from)
    const start = skipInLine(source, from, end)
    const next = afterLineEnd(source, end)
    const code = start < end ? source.charCodeAt(start) : 0
    if (start === end) return next
    if (this.isComment(start, end)) return this.comments(from)
    if (code === OPEN_BRACKET) this.header(start, end, from)
    else return this.property(start, end, start - from)
    return next
  }

  private isComment(start: number, end: number): boolean {
    const code = start < end ? this.source.charCodeAt(start) : 0
    if (code === SEMICOLON || code === HASH) return true
    return this.dialect.slashComments && this.source.startsWith('//', start)
  }

  private comment(start: number, end: number): void {
    const bodyEnd = trimEnd(this.source, start, end)
    const spans = { start, end: bodyEnd, nameEnd: start, bodyStart: start + 1, bodyEnd }
    this.tree.leaf({ kind: Kind.Comment, ...spans })
  }

  /** Reads comments up to the next line that is none, and ends the section before those that do not belong to it. */
  private comments(from: number): number {
    const found = this.commentsFrom(from)
    const first = this.section < 0 ? undefined : this.firstOfFile(found)
    for (const line of found.runs.flat()) {
      if (line === first) this.closeSection(line.from)
      this.comment(line.start, line.end)
    }
    return found.end
  }

  private commentsFrom(from: number): Comments {
    const { source } = this
    const runs: CommentLine[][] = []
    let isRun = false
    for (let at = from; at < source.length;) {
      const end = lineEnd(source, at)
      const start = skipInLine(source, at, end)
      const isComment = this.isComment(start, end)
      if (start < end && !isComment) {
        const next = source.charCodeAt(start) === OPEN_BRACKET ? 'section' : 'property'
        return { runs, end: at, next }
      }
      if (isComment) {
        if (!isRun) runs.push([])
        runs.at(-1)?.push({ from: at, start, end })
      }
      isRun = isComment
      at = afterLineEnd(source, end)
    }
    return { runs, end: source.length, next: 'nothing' }
  }

  /** The first comment that belongs to the file and not to the section above; undefined where none does. */
  private firstOfFile({ runs, end, next }: Comments): CommentLine | undefined {
    if (next === 'property') return undefined
    let first: CommentLine | undefined
    for (const [i, run] of runs.entries()) {
      const stop = run.at(-1)?.end ?? end
      const isAboveSection = next === 'section' && afterLineEnd(this.source, stop) === end
      if (isAboveSection) return first ?? run[0]
      const section = this.sectionIn(run)
      const own = section < 0 ? run : run.slice(0, section)
      if (own.some((line) => COMMENTED_PROPERTY.test(this.text(line)))) first = undefined
      else if (i > 0 || this.isAfterBlankLine(run[0]?.from ?? end)) first ??= run[0]
      if (section >= 0) return first ?? run[section]
    }
    return first
  }

  /** The first header among comments, or -1; one with words below it that are indented less is an example in words. */
  private sectionIn(run: readonly CommentLine[]): number {
    let section = -1
    let least = Infinity
    for (const [i, line] of [...run.entries()].reverse()) {
      const indent = this.indentIn(line)
      if (indent <= least && COMMENTED_HEADER.test(this.text(line))) section = i
      least = Math.min(least, indent)
    }
    return section
  }

  /** Code units of a comment line before what it says; of one that says nothing, Infinity. */
  private indentIn(line: CommentLine): number {
    const [before = ''] = /^(?:[;#]+|\/\/)\s*/.exec(this.text(line)) ?? []
    const says = line.start + before.length
    return says < line.end ? says - line.from : Infinity
  }

  private text({ start, end }: CommentLine): string {
    return this.source.slice(start, end)
  }

  private isAfterBlankLine(from: number): boolean {
    const { source } = this
    let at = from
    while (at > 0 && /\s/.test(source.charAt(at - 1))) at--
    return countLineEnds(source, at, from) > 1
  }

  private header(start: number, end: number, lineStart: number): void {
    const { source } = this
    this.closeSection(lineStart)
    const close = source.indexOf(']', start)
    if (close < 0 || close >= end) {
      this.problems.push(iniProblems.unclosedSection({ start, end: start + 1 }))
      return
    }
    const rest = skipInLine(source, close + 1, end)
    if (rest < end && !this.isComment(rest, end)) {
      const text = source.slice(rest, trimEnd(source, rest, end))
      this.problems.push(iniProblems.afterSection(text, { start: rest, end }))
    }
    this.section = this.tree.open(Kind.Section, start, close, close + 1)
    if (rest < end) this.comment(rest, end)
  }

  /**
   * Ends the open section after its last line that is not blank, so that the gap between two sections
   * belongs to the list of sections.
   */
  private closeSection(before: number): void {
    if (this.section < 0) return
    const { tree, source } = this
    const last = tree.length - 1
    const textEnd = last > this.section ? tree.end(last) : tree.bodyStart(this.section)
    const end = Math.min(before, afterLineEnd(source, lineEnd(source, textEnd)))
    tree.close(this.section, end, end)
    this.section = -1
  }

  /** Reads a property with all its lines; gives the start of the line after it. */
  private property(start: number, nameLineEnd: number, indent: number): number {
    const { source, dialect } = this
    const onLine = this.separatorAt(start, nameLineEnd)
    const separator = onLine < 0 ? this.separatorBelow(nameLineEnd, indent) : onLine
    const end = separator > nameLineEnd ? lineEnd(source, separator) : nameLineEnd
    if (separator < 0 && !dialect.bareNames) {
      this.problems.push(iniProblems.noSeparator({ start, end: trimEnd(source, start, end) }))
      return afterLineEnd(source, end)
    }
    if (separator === start) {
      this.problems.push(iniProblems.noName({ start, end: start + 1 }))
      return afterLineEnd(source, end)
    }
    const nameEnd = trimEnd(source, start, separator < 0 ? end : Math.min(separator, nameLineEnd))
    if (separator < 0) {
      this.leaf(start, nameEnd, nameEnd, nameEnd)
      return afterLineEnd(source, end)
    }
    const inLine = skipInLine(source, separator + 1, end)
    const below = inLine === end ? this.braceBelow(end) : -1
    const bodyStart = below < 0 ? inLine : below
    const last = this.lastLineEnd(bodyStart, below < 0 ? end : lineEnd(source, below), indent)
    const bodyEnd = this.valueEnd(bodyStart, last, last > end)
    this.leaf(start, nameEnd, bodyStart, bodyEnd)
    const rest = skipInLine(source, bodyEnd, last)
    if (rest < last) this.comment(rest, last)
    return afterLineEnd(source, last)
  }

  private leaf(start: number, nameEnd: number, bodyStart: number, bodyEnd: number): void {
    this.tree.leaf({ kind: Kind.Property, start, end: bodyEnd, nameEnd, bodyStart, bodyEnd })
  }

  /** Where a brace opens the value of a name that has none on its own line, which ended at `end`; or -1. */
  private braceBelow(end: number): number {
    const { source, dialect } = this
    if (!dialect.braces) return -1
    for (let next = afterLineEnd(source, end); next < source.length;) {
      const stop = lineEnd(source, next)
      const start = skipInLine(source, next, stop)
      if (start < stop && !this.isComment(start, stop)) return source[start] === '{' ? start : -1
      next = afterLineEnd(source, stop)
    }
    return -1
  }

  /** Where a line that is indented further begins with the separator of the name on the line up to `end`; or -1. */
  private separatorBelow(end: number, indent: number): number {
    const { source } = this
    const next = afterLineEnd(source, end)
    const stop = lineEnd(source, next)
    const start = skipInLine(source, next, stop)
    return start - next > indent && this.separatorAt(start, stop) === start ? start : -1
  }

  /** Where the first separator of the dialect stands in a line, or -1. */
  private separatorAt(start: number, end: number): number {
    const { source } = this
    for (const separator of this.dialect.separators)
      for (let at = start; at < end; at++) if (source[at] === separator) return at
    return -1
  }

  /** The end of the last line of a value that begins on the line up to `end`. */
  private lastLineEnd(bodyStart: number, end: number, indent: number): number {
    const { source, dialect } = this
    if (dialect.braces && source[bodyStart] === '{') return this.braceEnd(bodyStart, end)
    const isOpen = source[bodyStart] === '"' && !source.slice(bodyStart + 1, end).includes('"')
    if (dialect.openQuotes === 'lines' && isOpen) {
      const close = source.indexOf('"', end)
      return close < 0 ? end : lineEnd(source, close)
    }
    for (let last = end; ;) {
      const next = this.nextValueLine(last, indent)
      if (next < 0) return last
      last = next
    }
  }

  /**
   * The end of the next line that goes on with the value whose line ended at `last`; -1 where none does. Blank
   * lines and comments may stand between, but where a line may be a name alone.
   */
  private nextValueLine(last: number, indent: number): number {
    const { source, dialect } = this
    for (let next = afterLineEnd(source, last); next < source.length;) {
      const stop = lineEnd(source, next)
      const start = skipInLine(source, next, stop)
      const isSolid = start < stop && !this.isComment(start, stop)
      if (isSolid) return this.continues(last, next, stop, indent) ? stop : -1
      if (dialect.bareNames) return -1
      next = afterLineEnd(source, stop)
    }
    return -1
  }

  /** The end of the line on which the braces that a value opens are closed, or of the last one; each character is looked at once. */
  private braceEnd(bodyStart: number, end: number): number {
    const { source } = this
    const braces = new BraceCount()
    braces.add(source, bodyStart, end)
    let last = end
    while (braces.open > 0 && last < source.length) {
      const from = afterLineEnd(source, last)
      last = lineEnd(source, from)
      if (!this.isComment(skipInLine(source, from, last), last)) braces.add(source, from, last)
    }
    if (braces.open > 0)
      this.problems.push(iniProblems.unclosedBrace({ start: bodyStart, end: bodyStart + 1 }))
    return last
  }

  /** Whether the line from `next` to `stop` goes on with the value whose line ended at `last`. */
  private continues(last: number, next: number, stop: number, indent: number): boolean {
    const { source } = this
    const start = skipInLine(source, next, stop)
    if (source.charCodeAt(start) === OPEN_BRACKET || this.dialect.separators[0] === ' ')
      return false
    const isFurtherIn = start - next > indent
    const separator = this.separatorAt(start, stop)
    // what begins with a separator, or with a quoted text that is no name, can only go on
    const isNameless = separator === start || this.isQuotedValue(start, separator)
    if (separator >= 0 && !(isNameless && isFurtherIn)) return false
    return source[trimEnd(source, 0, last) - 1] === '\\' || isFurtherIn
  }

  /** Whether a line begins with a text in quotes behind which something else than a separator stands. */
  private isQuotedValue(start: number, separator: number): boolean {
    const { source } = this
    if (source.charCodeAt(start) !== QUOTE) return false
    const close = source.indexOf('"', start + 1)
    return close >= 0 && skipInLine(source, close + 1, separator) !== separator
  }

  /** The end of a value: what follows a closed quote, or a mark of the dialect, is a comment. */
  private valueEnd(start: number, end: number, overLines: boolean): number {
    const { source, dialect } = this
    const trimmed = Math.max(start, trimEnd(source, start, end))
    if (source.charCodeAt(start) === QUOTE && start < end)
      return this.quotedEnd(start, end, trimmed)
    if (!dialect.inlineComments || overLines) return trimmed
    const comment = /[ \t][;#]/.exec(source.slice(start, end))
    const isEmpty = start < end && this.isComment(start, end)
    if (isEmpty) return start
    return comment === null ? trimmed : trimEnd(source, start, start + comment.index)
  }

  private quotedEnd(start: number, end: number, trimmed: number): number {
    const { source } = this
    const close = source.indexOf('"', start + 1)
    if (close < 0 || close >= end) {
      if (this.dialect.openQuotes === 'error') {
        this.problems.push(iniProblems.unclosedQuote({ start, end: start + 1 }))
      }
      return trimmed
    }
    const rest = skipInLine(source, close + 1, end)
    return rest < end && this.isComment(rest, end) ? close + 1 : trimmed
  }
}

function lineEnd(source: string, from: number): number {
  let at = from
  while (at < source.length) {
    const code = source.charCodeAt(at)
    if (code === LF || code === CR) return at
    at++
  }
  return at
}

function afterLineEnd(source: string, end: number): number {
  if (end >= source.length) return source.length
  if (source.startsWith('\r\n', end)) return end + 2
  return end + 1
}

function skipInLine(source: string, from: number, to: number): number {
  let at = from
  while (at < to && (source.charCodeAt(at) === 32 || source.charCodeAt(at) === 9)) at++
  return at
}

function trimEnd(source: string, from: number, to: number): number {
  let at = to
  while (at > from && /\s/.test(source.charAt(at - 1))) at--
  return at
}
