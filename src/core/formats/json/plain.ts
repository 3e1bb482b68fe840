import { isBlank, skipBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import { MAX_DEPTH } from '../../document/limits.ts'
import type { Tree } from '../../document/tree.ts'
import {
  BACKSLASH,
  CLOSE_BRACE,
  CLOSE_BRACKET,
  COLON,
  COMMA,
  DIGIT_0,
  DIGIT_9,
  OPEN_BRACE,
  OPEN_BRACKET,
  QUOTE,
} from './characters.ts'

/** What the last thing read in an open container was. */
export enum Last {
  Opening,
  Item,
  Comma,
}

/**
 * Reads what nearly all of JSON consists of, in one loop: names and strings without escapes, numbers, words
 * and containers. It stops before everything else (a comment, an escape, a comma too many, whatever is
 * wrong), always between two items, where the scanner reads on.
 */
export class PlainReader {
  depth = 0
  last = Last.Opening
  itemEnd = 0
  commaAt = 0
  private isObject = false

  /**
   * @param tree the tree to fill
   * @param open the open containers, outermost first
   * @param member the members that they are the values of, or -1
   */
  constructor(
    private readonly tree: Tree,
    private readonly open: Int32Array,
    private readonly member: Int32Array,
  ) {}

  /**
   * Reads on from the item that begins at `from` inside `depth` open containers, and closes containers as
   * long as more than `least` are open; gives the offset of the first thing that is left to the scanner.
   */
  read(from: number, depth: number, least: number): number {
    this.depth = depth
    this.isObject = this.tree.kind[this.open[depth - 1] ?? 0] === Kind.Object
    let at = from
    for (;;) {
      const end = this.item(at)
      if (end < 0) return at
      at = this.afterItem(end, least)
      if (this.last === Last.Item) return at
    }
  }

  /** Reads an item, of a container only its beginning; gives the offset after it, or -1 where it is not plain. */
  private item(at: number): number {
    const { tree, isObject } = this
    const { source } = tree
    const end = source.length
    let nameEnd = at
    let valueAt = at
    if (isObject) {
      nameEnd = plainStringEnd(source, at, end)
      if (nameEnd < 0) return -1
      const colon = skipBlanks(source, nameEnd, end)
      if (colon === end || source.charCodeAt(colon) !== COLON) return -1
      valueAt = skipBlanks(source, colon + 1, end)
    }
    const code = valueAt < end ? source.charCodeAt(valueAt) : 0
    if (code === OPEN_BRACE || code === OPEN_BRACKET) {
      if (this.depth === MAX_DEPTH) return -1
      const member = isObject ? tree.open(Kind.Member, at, nameEnd, valueAt) : -1
      this.enter(code === OPEN_BRACE, valueAt, member)
      return valueAt + 1
    }
    const quote = code === QUOTE ? 1 : 0
    const valueEnd =
      quote === 1 ? plainStringEnd(source, valueAt, end) : plainWordEnd(source, valueAt, end)
    if (valueEnd < 0) return -1
    if (isObject)
      tree.scalarMember(at, nameEnd, valueAt, valueAt + quote, valueEnd - quote, valueEnd)
    else tree.add(Kind.Scalar, valueAt, valueAt, valueAt + quote, valueEnd - quote, valueEnd)
    this.itemEnd = valueEnd
    this.last = Last.Item
    return valueEnd
  }

  private enter(isObject: boolean, at: number, member: number): void {
    this.open[this.depth] = this.tree.open(isObject ? Kind.Object : Kind.Array, at, at, at + 1)
    this.member[this.depth] = member
    this.depth++
    this.isObject = isObject
    this.last = Last.Opening
  }

  private finish(member: number, end: number): void {
    if (member >= 0) this.tree.close(member, end, end)
    this.itemEnd = end
    this.last = Last.Item
  }

  /** Closes containers and takes a comma, where they are plain; gives the offset after them. */
  private afterItem(from: number, least: number): number {
    const { tree } = this
    const { source } = tree
    const end = source.length
    let at = skipBlanks(source, from, end)
    let code = at < end ? source.charCodeAt(at) : 0
    while (code === (this.isObject ? CLOSE_BRACE : CLOSE_BRACKET) && this.depth > least) {
      const depth = --this.depth
      tree.close(this.open[depth] ?? 0, at, at + 1)
      this.finish(this.member[depth] ?? -1, at + 1)
      this.isObject = tree.kind[this.open[depth - 1] ?? 0] === Kind.Object
      at = skipBlanks(source, at + 1, end)
      code = at < end ? source.charCodeAt(at) : 0
    }
    if (code !== COMMA || this.last !== Last.Item) return at
    this.last = Last.Comma
    this.commaAt = at
    return skipBlanks(source, at + 1, end)
  }
}

/** The end of the string that opens at `at` and has no escapes; -1 where there is none. */
function plainStringEnd(source: string, open: number, end: number): number {
  if (open >= end || source.charCodeAt(open) !== QUOTE) return -1
  for (let at = open + 1; at < end; at++) {
    const code = source.charCodeAt(at)
    if (code === QUOTE) return at + 1
    if (code === BACKSLASH || code < 32) return -1
  }
  return -1
}

const MINUS = 45
const DOT = 46
const LETTER_F = 102
const LETTER_N = 110
const LETTER_T = 116

/** The end of a number without an exponent or of a literal, behind which a delimiter stands; else -1. */
export function plainWordEnd(source: string, from: number, end: number): number {
  let at = from
  let code = at < end ? source.charCodeAt(at) : 0
  if (code === LETTER_T && source.startsWith('true', at)) at += 4
  else if (code === LETTER_F && source.startsWith('false', at)) at += 5
  else if (code === LETTER_N && source.startsWith('null', at)) at += 4
  else {
    if (code === MINUS) at++
    const whole = digitsEnd(source, at, end)
    if (whole === at || (source.charCodeAt(at) === DIGIT_0 && whole > at + 1)) return -1
    at = whole
    if (at < end && source.charCodeAt(at) === DOT) {
      at = digitsEnd(source, whole + 1, end)
      if (at === whole + 1) return -1
    }
  }
  if (at >= end) return at
  code = source.charCodeAt(at)
  return code === COMMA || code === CLOSE_BRACE || code === CLOSE_BRACKET || isBlank(code) ? at : -1
}

function digitsEnd(source: string, from: number, end: number): number {
  let at = from
  while (at < end) {
    const code = source.charCodeAt(at)
    if (code < DIGIT_0 || code > DIGIT_9) break
    at++
  }
  return at
}
