/*
 * A reader of JSON (RFC 8259) that also takes comments and trailing commas, and tells that it met them;
 * where the dialect is JSON5 it takes single quotes, names without quotes and JSON5's numbers, too:
 *
 *   document ::= trivia value trivia
 *   trivia   ::= (blank | '//' … line end | '/*' … '*' '/')*
 *   value    ::= object | array | string | number | 'true' | 'false' | 'null'
 *   object   ::= '{' (member (',' member)* ','?)? '}'        member ::= string ':' value
 *   array    ::= '[' (value (',' value)* ','?)? ']'
 *   JSON5:       member ::= (string | identifier) ':' value, string in ' or ", numbers as in
 *                https://spec.json5.org/#numbers
 *
 * A comma that is missing is reported and read over; at other errors it stops, since what follows would
 * be guesswork.
 */
import { isBlank, skipBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import { MAX_DEPTH, MAX_PROBLEMS } from '../../document/limits.ts'
import type { Problem } from '../../document/problem.ts'
import type { ReadBefore } from '../../document/shared/read-after.ts'
import { ReadAfter } from '../../document/shared/read-after.ts'
import type { NodeSpans } from '../../document/tree.ts'
import { Tree } from '../../document/tree.ts'
import {
  APOSTROPHE,
  BACKSLASH,
  CLOSE_BRACE,
  CLOSE_BRACKET,
  COLON,
  COMMA,
  OPEN_BRACE,
  OPEN_BRACKET,
  QUOTE,
} from './characters.ts'
import { plainStringEnd, plainWordEnd } from './plain.ts'
import { jsonProblems } from './problems.ts'

const SLASH = 47
const STAR = 42

const ESCAPES = new Set('"\\/bfnrt')
/** What JSON5 takes beside those: two hex digits, a zero that no digit follows, and any other character as itself. */
const ESCAPE5 = /^\\(?:x[0-9a-fA-F]{2}|0(?![0-9])|[^ux0-9])/
const NUMBER5 =
  /[+-]?(?:Infinity|NaN|0[xX][0-9a-fA-F]+|(?:(?:0|[1-9][0-9]*)(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][+-]?[0-9]+)?)/y
const IDENTIFIER = /[\p{L}\p{Nl}$_][\p{L}\p{Nl}\p{Mn}\p{Mc}\p{Nd}\p{Pc}$_]*/uy
const NUMBER = /-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?(?:[eE][+-]?[0-9]+)?/y
const WORD = /[^\s,:[\]{}"/]+/y

// One document is read at a time, so that all can use these; each level is set when it is opened.
const OPEN = new Int32Array(MAX_DEPTH + 1)
/** The member that each open container is the value of, or -1. */
const MEMBER = new Int32Array(MAX_DEPTH + 1)

/** What the last thing read in the innermost open container was: one that was closed is an item of the one around. */
enum Last {
  Opening,
  Item,
  Comma,
}

export class JsonScanner {
  readonly tree: Tree
  readonly problems: Problem[] = []
  /** Offsets of the first comment and of the first trailing comma; -1 where there is none. */
  firstComment = -1
  firstTrailingComma = -1
  /** Offset of the first thing that only JSON5 has; -1 where there is none. */
  firstJson5 = -1
  private readonly source: string
  private readonly end: number
  private readonly open = OPEN
  private readonly member = MEMBER
  private last = Last.Opening
  private inObject = false
  private readonly after: ReadAfter | undefined
  private depth = 0
  private itemEnd = 0
  private commaAt = 0
  private stopped = false
  /** Comments between a member's name and its value, before the member has a node. */
  private readonly inside: NodeSpans[] = []

  /** @param before another document that is strict JSON */
  constructor(
    source: string,
    private readonly json5: boolean,
    before?: ReadBefore,
  ) {
    this.source = source
    this.end = source.length
    this.tree = new Tree(source, before?.tree.length)
    if (before !== undefined) this.after = new ReadAfter(before, this.tree)
  }

  /** Reads the whole source into `tree`; what is wrong is in `problems`. */
  read(): void {
    const document = this.tree.open(Kind.Document, 0, 0, 0)
    let at = this.trivia(0)
    if (at >= this.end && !this.stopped)
      this.report(jsonProblems.empty({ start: 0, end: Math.min(1, this.end) }))
    else if (!this.stopped) at = this.value(at, -1)
    while (this.depth > 0 && !this.stopped) at = this.step(at)
    if (!this.stopped) {
      at = this.trivia(at)
      if (at < this.end && !this.stopped) this.afterEnd(at)
    }
    while (this.depth > 0) this.closeTop(this.end, this.end)
    this.tree.close(document, this.end, this.end)
  }

  private report(problem: Problem): void {
    this.problems.push(problem)
    if (this.problems.length >= MAX_PROBLEMS) this.stopped = true
  }

  /** Reports what cannot be read over; gives the end, so that every loop ends. */
  private fail(problem: Problem): number {
    this.report(problem)
    this.stopped = true
    return this.end
  }

  private afterEnd(at: number): void {
    const code = this.source.charCodeAt(at)
    const span = { start: at, end: at + 1 }
    if (code === CLOSE_BRACE || code === CLOSE_BRACKET) {
      this.fail(jsonProblems.strayClose(this.source.charAt(at), span))
    } else this.fail(jsonProblems.afterEnd(this.found(at), span))
  }

  /** One step inside the innermost container: an item, a comma or its end. */
  private step(from: number): number {
    const at = this.trivia(from)
    if (this.stopped) return this.end
    if (at >= this.end) return this.unclosed(at, 'the end of the file')
    const code = this.source.charCodeAt(at)
    const { last, inObject } = this
    if (code === CLOSE_BRACE || code === CLOSE_BRACKET) return this.close(at, code)
    if (code === COMMA) {
      if (last !== Last.Item) return this.fail(jsonProblems.strayComma({ start: at, end: at + 1 }))
      this.last = Last.Comma
      this.commaAt = at
      return at + 1
    }
    if (last === Last.Item) {
      const after = { start: this.itemEnd, end: this.itemEnd + 1 }
      this.report(jsonProblems.missingComma(this.found(at), { start: at, end: at + 1 }, after))
      if (this.stopped) return this.end
    }
    const copied = this.after?.copyAt(at, this.depth) ?? -1
    if (copied >= 0) {
      this.finishItem(-1, copied)
      return copied
    }
    return inObject ? this.memberAt(at) : this.value(at, -1)
  }

  /** The innermost open container. */
  private top(): number {
    return this.open[this.depth - 1] ?? -1
  }

  private close(at: number, code: number): number {
    if ((code === CLOSE_BRACE) !== this.inObject) {
      return this.unclosed(at, this.source.charAt(at))
    }
    if (this.last === Last.Comma && this.firstTrailingComma < 0) {
      this.firstTrailingComma = this.commaAt
    }
    this.closeTop(at, at + 1)
    return at + 1
  }

  private closeTop(bodyEnd: number, end: number): void {
    this.tree.close(this.top(), bodyEnd, end)
    this.depth--
    this.inObject = this.depth > 0 && this.tree.kind(this.top()) === Kind.Object
    this.finishItem(this.member[this.depth] ?? -1, end)
  }

  /** A value has been read up to `end`; closes the member that it belongs to, if one. */
  private finishItem(member: number, end: number): void {
    if (member >= 0) this.tree.close(member, end, end)
    this.itemEnd = end
    this.last = Last.Item
  }

  private unclosed(at: number, found: string): number {
    const start = this.tree.start(this.top())
    const what = this.source.charAt(start)
    const noticed = { start: at, end: at + 1 }
    return this.fail(jsonProblems.unclosed(what, { start, end: start + 1 }, noticed, found))
  }

  private memberAt(at: number): number {
    const nameEnd = this.name(at)
    if (this.stopped) return this.end
    const colon = this.trivia(nameEnd, true)
    if (colon >= this.end || this.source.charCodeAt(colon) !== COLON) {
      const name = this.source.slice(at, nameEnd)
      return this.fail(jsonProblems.missingColon(name, { start: nameEnd, end: nameEnd + 1 }))
    }
    const valueAt = this.trivia(colon + 1, true)
    if (this.stopped) return this.end
    const code = valueAt < this.end ? this.source.charCodeAt(valueAt) : 0
    if (code === OPEN_BRACE || code === OPEN_BRACKET || this.inside.length > 0) {
      const member = this.tree.open(Kind.Member, at, nameEnd, valueAt)
      for (const comment of this.inside.splice(0)) this.tree.leaf(comment)
      return this.value(valueAt, member)
    }
    const end = this.scalarEnd(valueAt, code)
    if (this.stopped) return this.end
    const quote = this.isQuote(code) ? 1 : 0
    this.tree.scalarMember(at, nameEnd, valueAt, valueAt + quote, end - quote, end)
    this.finishItem(-1, end)
    return this.directComma(end)
  }

  /** The end of the name at `at`. */
  private name(at: number): number {
    if (this.isQuote(at < this.end ? this.source.charCodeAt(at) : 0)) return this.string(at)
    IDENTIFIER.lastIndex = at
    const identifier = this.json5 ? IDENTIFIER.exec(this.source)?.[0] : undefined
    if (identifier === undefined) {
      return this.fail(jsonProblems.expectedName(this.found(at), { start: at, end: at + 1 }))
    }
    this.meetJson5(at)
    return at + identifier.length
  }

  private isQuote(code: number): boolean {
    return code === QUOTE || (this.json5 && code === APOSTROPHE)
  }

  private meetJson5(at: number): void {
    if (this.firstJson5 < 0) this.firstJson5 = at
  }

  /** Reads a value, of a container only its opening; `member` is what it is the value of, or -1. */
  private value(at: number, member: number): number {
    const code = at < this.end ? this.source.charCodeAt(at) : 0
    if (code === OPEN_BRACE) return this.openContainer(Kind.Object, at, member)
    if (code === OPEN_BRACKET) return this.openContainer(Kind.Array, at, member)
    const end = this.scalarEnd(at, code)
    if (this.stopped) return this.end
    const quote = this.isQuote(code) ? 1 : 0
    this.tree.add(Kind.Scalar, at, at, at + quote, end - quote, end)
    this.finishItem(member, end)
    return this.directComma(end)
  }

  /** Takes a comma that stands directly behind an item, as most do, without a step of its own. */
  private directComma(at: number): number {
    if (this.depth === 0 || at >= this.end || this.source.charCodeAt(at) !== COMMA) return at
    this.last = Last.Comma
    this.commaAt = at
    return at + 1
  }

  /** The end of the string, number or word that begins at `at` with a code unit. */
  private scalarEnd(at: number, code: number): number {
    return this.isQuote(code) ? this.string(at) : this.word(at)
  }

  private openContainer(kind: Kind, at: number, member: number): number {
    if (this.depth >= MAX_DEPTH) {
      return this.fail(jsonProblems.tooDeep(MAX_DEPTH, { start: at, end: at + 1 }))
    }
    this.open[this.depth] = this.tree.open(kind, at, at, at + 1)
    this.member[this.depth] = member
    this.last = Last.Opening
    this.inObject = kind === Kind.Object
    this.depth++
    return at + 1
  }

  /** The offset after the string that opens at `at`; its inside is checked. */
  private string(open: number): number {
    const { source, end } = this
    const plain = plainStringEnd(source, open, end)
    if (plain >= 0) return plain
    const quote = source.charCodeAt(open)
    if (quote === APOSTROPHE) this.meetJson5(open)
    let at = open + 1
    while (at < end) {
      const code = source.charCodeAt(at)
      if (code === quote) return at + 1
      if (code === BACKSLASH) at = this.escape(at)
      else if (code >= 32) at++
      else if (code === 10 || code === 13) break
      else {
        this.report(jsonProblems.controlCharacter(code, { start: at, end: at + 1 }))
        at++
      }
    }
    return this.fail(jsonProblems.unclosedString({ start: open, end: open + 1 }))
  }

  private escape(at: number): number {
    const { source } = this
    const letter = source.charAt(at + 1)
    if (ESCAPES.has(letter)) return at + 2
    if (letter === 'u' && /^[0-9a-fA-F]{4}$/.test(source.slice(at + 2, at + 6))) return at + 6
    const text = source.slice(at, at + (letter === 'u' ? 6 : 2))
    if (this.json5 && ESCAPE5.test(source.slice(at, at + 4))) {
      this.meetJson5(at)
      return source.startsWith('\r\n', at + 1) ? at + 3 : at + 2
    }
    this.report(jsonProblems.badEscape(text, { start: at, end: at + 2 }))
    return letter === '\n' || letter === '\r' ? at + 1 : at + 2
  }

  /** The end of the number, `true`, `false` or `null` at `at`; anything else is reported. */
  private word(at: number): number {
    const { source } = this
    const plain = plainWordEnd(source, at, this.end)
    if (plain >= 0) return plain
    NUMBER.lastIndex = at
    WORD.lastIndex = at
    const word = WORD.exec(source)?.[0] ?? ''
    if (word === 'true' || word === 'false' || word === 'null') return at + word.length
    if (word !== '' && NUMBER.exec(source)?.[0] === word) return at + word.length
    NUMBER5.lastIndex = at
    if (this.json5 && word !== '' && NUMBER5.exec(source)?.[0] === word) {
      this.meetJson5(at)
      return at + word.length
    }
    const span = { start: at, end: at + Math.max(1, word.length) }
    if (/^[-+.]?[0-9]/.test(word)) return this.fail(jsonProblems.badNumber(word, span))
    return this.fail(jsonProblems.expectedValue(this.found(at), span))
  }

  /** Skips blanks and comments; those inside a member become nodes when that has begun (`isInside`), all others at once. */
  private trivia(from: number, isInside = false): number {
    const { source, end } = this
    let at = skipBlanks(source, from, end)
    while (at < end) {
      const code = source.charCodeAt(at)
      if (isBlank(code)) at++
      else if (code === SLASH && at + 1 < end) {
        const after = this.comment(at, isInside)
        if (after === at) return at
        at = after
      } else break
    }
    return at
  }

  private comment(at: number, isInside: boolean): number {
    const { source } = this
    const second = source.charCodeAt(at + 1)
    if (second !== SLASH && second !== STAR) return at
    const block = second === STAR
    const bodyEnd = block ? source.indexOf('*/', at + 2) : lineEnd(source, at)
    if (bodyEnd < 0) {
      return this.fail(jsonProblems.unclosedComment({ start: at, end: at + 2 }))
    }
    const end = block ? bodyEnd + 2 : bodyEnd
    if (this.firstComment < 0) this.firstComment = at
    const leaf = { kind: Kind.Comment, start: at, end, nameEnd: at, bodyStart: at + 2, bodyEnd }
    if (isInside) this.inside.push(leaf)
    else this.tree.leaf(leaf)
    return end
  }

  /** What stands at an offset, in words for a message. */
  private found(at: number): string {
    if (at >= this.end) return 'the end of the file'
    const { source } = this
    if (source.charCodeAt(at) === QUOTE) {
      const close = source.indexOf('"', at + 1)
      return close > 0 && close - at < 40 ? source.slice(at, close + 1) : 'a string'
    }
    WORD.lastIndex = at
    return WORD.exec(source)?.[0].slice(0, 40) ?? source.charAt(at)
  }
}

function lineEnd(source: string, from: number): number {
  let at = from
  while (at < source.length && source.charCodeAt(at) !== 10 && source.charCodeAt(at) !== 13) at++
  return at
}
