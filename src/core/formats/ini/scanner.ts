/*
 * A reader of INI, line by line:
 *
 *   line     ::= blanks (comment | section | property)? line-end
 *   comment  ::= (';' | '#') …
 *   section  ::= '[' name ']' blanks comment?
 *   property ::= name blanks ('=' | ':') blanks value
 *   value    ::= '"' … '"' blanks comment? | …            (to the end of the line)
 *
 * A comment directly above a section's header belongs to that section; every other line belongs to
 * the section above it.
 */
import { Kind } from '../../document/kind.ts'
import { MAX_PROBLEMS } from '../../document/limits.ts'
import type { Problem } from '../../document/problem.ts'
import { Tree } from '../../document/tree.ts'
import { iniProblems } from './problems.ts'

const LF = 10
const CR = 13
const SEMICOLON = 59
const HASH = 35
const OPEN_BRACKET = 91
const QUOTE = 34

export class IniScanner {
  readonly tree: Tree
  readonly problems: Problem[] = []
  private readonly source: string
  private section = -1

  constructor(source: string) {
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
    if (code === SEMICOLON || code === HASH) return this.commentRun(from)
    if (code === OPEN_BRACKET) this.header(start, end, from)
    else this.property(start, end)
    return next
  }

  private comment(start: number, end: number): void {
    const bodyEnd = trimEnd(this.source, start, end)
    const spans = { start, end: bodyEnd, nameEnd: start, bodyStart: start + 1, bodyEnd }
    this.tree.leaf({ kind: Kind.Comment, ...spans })
  }

  /** Reads comment lines that follow each other; directly above a header they stand beside its section. */
  private commentRun(from: number): number {
    const { source } = this
    const run: [number, number][] = []
    let at = from
    let code = SEMICOLON
    while (at < source.length) {
      const end = lineEnd(source, at)
      const start = skipInLine(source, at, end)
      code = start < end ? source.charCodeAt(start) : 0
      if (code !== SEMICOLON && code !== HASH) break
      run.push([start, end])
      at = afterLineEnd(source, end)
    }
    if (code === OPEN_BRACKET && at < source.length) this.closeSection(from)
    for (const [start, end] of run) this.comment(start, end)
    return at
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
    const code = rest < end ? source.charCodeAt(rest) : SEMICOLON
    if (code !== SEMICOLON && code !== HASH) {
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
    const textEnd = (last > this.section ? tree.end[last] : tree.bodyStart[this.section]) ?? 0
    const end = Math.min(before, afterLineEnd(source, lineEnd(source, textEnd)))
    tree.close(this.section, end, end)
    this.section = -1
  }

  private property(start: number, end: number): void {
    const { source } = this
    let at = start
    while (at < end && source.charCodeAt(at) !== 61 && source.charCodeAt(at) !== 58) at++
    if (at >= end) {
      this.problems.push(iniProblems.noSeparator({ start, end }))
      return
    }
    if (at === start) {
      this.problems.push(iniProblems.noName({ start, end: at + 1 }))
      return
    }
    const nameEnd = trimEnd(source, start, at)
    const bodyStart = skipInLine(source, at + 1, end)
    const bodyEnd = this.valueEnd(bodyStart, end)
    this.tree.leaf({ kind: Kind.Property, start, end: bodyEnd, nameEnd, bodyStart, bodyEnd })
    const rest = skipInLine(source, bodyEnd, end)
    if (rest < end) this.comment(rest, end)
  }

  /** The end of a value: a quoted one may have a comment after it, any other goes to the line's end. */
  private valueEnd(start: number, end: number): number {
    const { source } = this
    const trimmed = Math.max(start, trimEnd(source, start, end))
    if (source.charCodeAt(start) !== QUOTE || start >= end) return trimmed
    const close = source.indexOf('"', start + 1)
    if (close < 0 || close >= end) {
      this.problems.push(iniProblems.unclosedQuote({ start, end: start + 1 }))
      return trimmed
    }
    const rest = skipInLine(source, close + 1, end)
    const code = rest < end ? source.charCodeAt(rest) : 0
    return code === SEMICOLON || code === HASH ? close + 1 : trimmed
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
