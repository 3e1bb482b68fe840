/*
 * A strict reader of XML 1.0 (fifth edition) without the inside of DTDs:
 *
 *   document  ::= declaration? misc* (doctype misc*)? element misc*
 *   misc      ::= comment | instruction | blanks
 *   element   ::= '<' Name (blanks attribute)* blanks? ('/>' | '>' content '</' Name blanks? '>')
 *   attribute ::= Name blanks? '=' blanks? ('"' [^<"]* '"' | "'" [^<']* "'")
 *   content   ::= (text | reference | cdata | element | comment | instruction)*
 *
 * It reports what is wrong and reads on where it can, so that one run tells all that can be told apart.
 */
import { isBlank, skipBlanks, SPACE } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { Problem, Span } from '../../document/problem.ts'
import { MAX_DEPTH, MAX_PROBLEMS } from '../../document/limits.ts'
import type { ReadBefore } from '../../document/shared/read-after.ts'
import { ReadAfter } from '../../document/shared/read-after.ts'
import { Tree } from '../../document/tree.ts'
import { XmlCharacters } from './characters.ts'
import { DECLARATION, declaredEntities, doctypeEnd, EntityJudge } from './grammar.ts'
import { isNameStart, skipName } from './names.ts'
import { xmlProblems } from './problems.ts'

const LESS = 60
const GREATER = 62
const AMPERSAND = 38
const BANG = 33
const QUESTION = 63
const SLASH = 47
const EQUALS = 61
const QUOTE = 34
const APOSTROPHE = 39
const BRACKET = 93

/** From this many attributes in one tag on, repeats are looked up in a set and not pair by pair. */
const MANY_ATTRIBUTES = 16

/** The open elements. One document is read at a time, so that all can use it. */
const OPEN = new Int32Array(MAX_DEPTH + 1)

export class XmlScanner {
  readonly tree: Tree
  readonly problems: Problem[] = []
  private readonly source: string
  private readonly characters: XmlCharacters
  private readonly after: ReadAfter | undefined
  private readonly end: number
  private readonly open = OPEN
  private depth = 0
  private root = -1
  hasDoctype = false
  /** Start of the run of text that is being read, and whether it holds more than blanks. */
  private textStart = 0
  private textSolid = false
  private stopped = false

  /** @param before another document, read without a problem and without a DOCTYPE */
  constructor(source: string, before?: ReadBefore) {
    this.source = source
    this.end = source.length
    this.tree = new Tree(source, before?.tree.length)
    if (before !== undefined) this.after = new ReadAfter(before, this.tree)
    this.characters = new XmlCharacters(source, (problem) => {
      this.report(problem)
    })
  }

  /** Reads the whole source into `tree`; what is wrong is in `problems`. */
  read(): void {
    const document = this.tree.open(Kind.Document, 0, 0, 0)
    let at = 0
    while (at < this.end && !this.stopped) {
      if (this.source.charCodeAt(at) !== LESS) at = this.text(at)
      else at = this.markup(at)
    }
    if (!this.stopped) this.finish()
    while (this.depth > 0) this.closeTop(this.end, this.end)
    this.tree.close(document, this.end, this.end)
  }

  private finish(): void {
    this.flushText(this.end)
    if (this.depth > 0) this.unclosed({ start: this.end, end: this.end }, 'the end of the file')
    else if (this.root < 0 && this.problems.length === 0) {
      this.report(xmlProblems.empty({ start: 0, end: Math.min(1, this.end) }))
    }
  }

  private report(problem: Problem): void {
    if (this.problems.length < MAX_PROBLEMS) this.problems.push(problem)
    else this.stopped = true
  }

  private markup(at: number): number {
    const code = at + 1 < this.end ? this.source.charCodeAt(at + 1) : 0
    if (code === SLASH) return this.closeTag(at)
    if (code === BANG) return this.declaration(at)
    if (code === QUESTION) return this.instruction(at)
    if (isNameStart(code)) return this.openTag(at)
    this.report(xmlProblems.strayLess({ start: at, end: at + 1 }))
    return at + 1
  }

  // Text

  private text(from: number): number {
    const { source, end } = this
    let at = from
    let solid = false
    while (at < end) {
      const code = source.charCodeAt(at)
      if (code === LESS) break
      if (code > SPACE && code !== AMPERSAND && code !== BRACKET && code < 0xd800) {
        solid = true
        at++
      } else if (isBlank(code)) at++
      else {
        solid = true
        at = this.characters.unusual(at, code)
      }
    }
    if (solid) {
      this.textSolid = true
      if (this.depth === 0) this.outsideRoot(from, at)
    }
    return at
  }

  private outsideRoot(from: number, to: number): void {
    const start = skipBlanks(this.source, from, to)
    this.report(xmlProblems.outsideRoot({ start, end: to }))
  }

  /** Ends the run of text before `at`; blanks alone make no node. */
  private flushText(at: number): void {
    if (!this.textSolid) return
    const start = this.textStart
    if (this.depth > 0) this.tree.add(Kind.Text, start, start, start, at, at)
    this.textSolid = false
  }

  // Tags

  private openTag(at: number): number {
    const { source, tree } = this
    this.flushText(at)
    const copied = this.copiedAt(at)
    if (copied > at) return copied
    const nameEnd = skipName(source, at + 1, this.end)
    if (this.depth === 0) this.checkRoot(at, nameEnd)
    if (this.depth >= MAX_DEPTH) {
      this.report(xmlProblems.tooDeep(MAX_DEPTH, { start: at, end: nameEnd }))
      this.stopped = true
      return this.end
    }
    const node = tree.open(Kind.Element, at, nameEnd, nameEnd)
    this.open[this.depth++] = node
    const tagEnd = this.attributes(node, nameEnd)
    this.textStart = tagEnd
    tree.begin(node, tagEnd)
    if (source.charCodeAt(tagEnd - 2) === SLASH && source.charCodeAt(tagEnd - 1) === GREATER) {
      this.closeTop(tagEnd, tagEnd)
    }
    return tagEnd
  }

  /** The offset after an element that was copied, or -1; declared entities would make two texts differ. */
  private copiedAt(at: number): number {
    if (this.after === undefined || this.hasDoctype) return -1
    const after = this.after.copyAt(at, this.depth)
    if (after < 0) return -1
    this.textStart = after
    return after
  }

  private checkRoot(at: number, nameEnd: number): void {
    if (this.root >= 0) {
      const first = {
        start: this.tree.start(this.root),
        end: this.tree.nameEnd(this.root),
      }
      const name = this.source.slice(at + 1, nameEnd)
      this.report(xmlProblems.secondRoot(name, { start: at, end: nameEnd }, first))
    } else this.root = this.tree.length
  }

  /** Reads the attributes of `node` from `from` to after the tag's `>`. */
  private attributes(node: number, from: number): number {
    const { source, end } = this
    let at = from
    if (at < end && source.charCodeAt(at) === GREATER) return at + 1
    let count = 0
    let names: Map<string, number> | undefined
    for (;;) {
      const nameStart = skipBlanks(source, at, end)
      const code = nameStart < end ? source.charCodeAt(nameStart) : 0
      if (code === GREATER) return nameStart + 1
      if (code === SLASH && nameStart + 1 < end && source.charCodeAt(nameStart + 1) === GREATER) {
        return nameStart + 2
      }
      const nameEnd = skipName(source, nameStart, end)
      if (nameEnd === nameStart) return this.brokenTag(node, nameStart)
      if (nameStart === at) {
        this.report(xmlProblems.missingBlank(this.nameOf(node), { start: nameStart, end: nameEnd }))
      }
      const attribute = this.tree.length
      at = this.attribute(nameStart, nameEnd)
      if (at < 0) return this.brokenTag(node, nameEnd, false)
      count++
      if (count === MANY_ATTRIBUTES) names = this.attributeNames(node)
      if (names === undefined) this.checkPairwise(node, attribute)
      else this.checkNamed(names, attribute)
    }
  }

  /** Reads `= "value"` of one attribute; gives the offset after it, or -1 where that is not there. */
  private attribute(nameStart: number, nameEnd: number): number {
    const { source, end } = this
    const equals = skipBlanks(source, nameEnd, end)
    const open = skipBlanks(source, equals + 1, end)
    const quote = open < end ? source.charCodeAt(open) : 0
    if (
      source.charCodeAt(equals < end ? equals : end - 1) !== EQUALS ||
      (quote !== QUOTE && quote !== APOSTROPHE)
    ) {
      const name = source.slice(nameStart, nameEnd)
      this.report(xmlProblems.missingValue(name, { start: nameStart, end: nameEnd }))
      return -1
    }
    const close = this.attributeValue(open, quote)
    if (close < 0) {
      const name = source.slice(nameStart, nameEnd)
      this.report(xmlProblems.unclosedValue(name, { start: open, end: open + 1 }))
      return -1
    }
    this.tree.add(Kind.Attribute, nameStart, nameEnd, open + 1, close, close + 1)
    return close + 1
  }

  /** The offset of the closing quote, or -1 where a `<` or the end comes first. */
  private attributeValue(open: number, quote: number): number {
    const { source, end } = this
    let at = open + 1
    while (at < end) {
      const code = source.charCodeAt(at)
      if (code === quote) return at
      if (code === LESS) return -1
      if (code === AMPERSAND) at = this.characters.reference(at, true)
      else if ((code >= SPACE && code < 0xd800) || isBlank(code)) at++
      else at = this.characters.character(at, code)
    }
    return -1
  }

  private checkPairwise(node: number, attribute: number): void {
    const { tree, source } = this
    const start = tree.start(attribute)
    const length = tree.nameEnd(attribute) - start
    for (let other = node + 1; other < attribute; other++) {
      const otherStart = tree.start(other)
      if (tree.nameEnd(other) - otherStart !== length) continue
      let same = true
      for (let i = 0; i < length && same; i++) {
        same = source.charCodeAt(start + i) === source.charCodeAt(otherStart + i)
      }
      if (same) this.duplicate(attribute, other)
    }
  }

  private attributeNames(node: number): Map<string, number> {
    const names = new Map<string, number>()
    for (let other = node + 1; other < this.tree.length - 1; other++)
      names.set(this.nameOf(other), other)
    return names
  }

  private checkNamed(names: Map<string, number>, attribute: number): void {
    const name = this.nameOf(attribute)
    const first = names.get(name)
    if (first === undefined) names.set(name, attribute)
    else this.duplicate(attribute, first)
  }

  private duplicate(attribute: number, first: number): void {
    const span = (node: number): Span => ({
      start: this.tree.start(node),
      end: this.tree.nameEnd(node),
    })
    this.report(
      xmlProblems.duplicateAttribute(this.nameOf(attribute), span(attribute), span(first)),
    )
  }

  /** What stands in a tag is no attribute: tells it once, and reads on after the tag's end. */
  private brokenTag(node: number, at: number, tell = true): number {
    const { source, end } = this
    const next = at < end ? source.charCodeAt(at) : 0
    if (tell && (at >= end || next === LESS)) {
      const span = { start: this.tree.start(node), end: this.tree.nameEnd(node) }
      this.report(xmlProblems.unclosedTag(this.nameOf(node), span))
    } else if (tell) {
      this.report(xmlProblems.badAttribute(this.nameOf(node), { start: at, end: at + 1 }))
    }
    let stop = at
    while (stop < end && source.charCodeAt(stop) !== GREATER && source.charCodeAt(stop) !== LESS)
      stop++
    return stop < end && source.charCodeAt(stop) === GREATER ? stop + 1 : stop
  }

  private nameOf(node: number): string {
    const { tree } = this
    const start = tree.start(node)
    return this.source.slice(
      tree.kind(node) === Kind.Element ? start + 1 : start,
      tree.nameEnd(node),
    )
  }

  private closeTag(at: number): number {
    const { source, end } = this
    const plain = this.plainClose(at)
    if (plain > at) return plain
    const nameEnd = skipName(source, at + 2, end)
    const close = skipBlanks(source, nameEnd, end)
    this.flushText(at)
    const closed = close < end && source.charCodeAt(close) === GREATER
    const after = closed ? close + 1 : nameEnd
    if (!closed)
      this.report(
        xmlProblems.unclosedTag('/' + source.slice(at + 2, nameEnd), { start: at, end: nameEnd }),
      )
    if (this.depth > 0 && this.isNamed(this.top(), at + 2, nameEnd)) {
      this.closeTop(at, after)
    } else this.mismatch(at, nameEnd, after)
    this.textStart = after
    return after
  }

  /** Takes `</name>` where that is the one awaited, as it mostly is; else gives `at`. */
  private plainClose(at: number): number {
    if (this.depth === 0) return at
    const { source, tree } = this
    const node = this.top()
    const from = tree.start(node) + 1
    const length = tree.nameEnd(node) - from
    const close = at + 2 + length
    if (close >= this.end || source.charCodeAt(close) !== GREATER) return at
    for (let i = 0; i < length; i++)
      if (source.charCodeAt(from + i) !== source.charCodeAt(at + 2 + i)) return at
    this.flushText(at)
    this.closeTop(at, close + 1)
    this.textStart = close + 1
    return close + 1
  }

  private isNamed(node: number, from: number, to: number): boolean {
    const start = this.tree.start(node) + 1
    if (this.tree.nameEnd(node) - start !== to - from) return false
    for (let i = 0; i < to - from; i++) {
      if (this.source.charCodeAt(start + i) !== this.source.charCodeAt(from + i)) return false
    }
    return true
  }

  /** A close tag that is not the one awaited: an element further out is meant, or none. */
  private mismatch(at: number, nameEnd: number, after: number): void {
    const name = this.source.slice(at + 2, nameEnd)
    let level = this.depth - 1
    while (level >= 0 && !this.isNamed(this.open[level] ?? -1, at + 2, nameEnd)) level--
    if (level < 0) {
      const top = this.depth > 0 ? this.nameOf(this.top()) : undefined
      this.report(xmlProblems.strayClose(name, { start: at, end: nameEnd }, top))
      return
    }
    while (this.depth - 1 > level) {
      this.unclosed({ start: at, end: nameEnd }, `</${name}>`)
      this.closeTop(at, at)
    }
    this.closeTop(at, after)
  }

  private unclosed(noticed: Span, found: string): void {
    const node = this.top()
    const span = { start: this.tree.start(node), end: this.tree.nameEnd(node) }
    this.report(xmlProblems.unclosedElement(this.nameOf(node), span, noticed, found))
  }

  /** The innermost open element. */
  private top(): number {
    return this.open[this.depth - 1] ?? -1
  }

  private closeTop(bodyEnd: number, end: number): void {
    this.tree.close(this.top(), bodyEnd, end)
    this.depth--
  }

  // Comments, CDATA, instructions, DOCTYPE

  private declaration(at: number): number {
    const { source } = this
    if (source.startsWith('<!--', at)) return this.comment(at)
    if (source.startsWith('<![CDATA[', at)) return this.cdata(at)
    if (source.startsWith('<!DOCTYPE', at)) return this.doctype(at)
    this.report(xmlProblems.strayLess({ start: at, end: at + 2 }))
    return at + 2
  }

  private comment(at: number): number {
    const { source } = this
    this.flushText(at)
    const close = source.indexOf('--', at + 4)
    if (close < 0) {
      this.report(xmlProblems.unclosedComment({ start: at, end: at + 4 }))
      return this.end
    }
    let bodyEnd = close
    if (source.charCodeAt(close + 2) !== GREATER) {
      this.report(xmlProblems.doubleHyphen({ start: close, end: close + 2 }))
      bodyEnd = source.indexOf('-->', close)
      if (bodyEnd < 0) return this.end
    }
    this.characters.stretch(at + 4, bodyEnd)
    const end = bodyEnd + 3
    this.tree.leaf({ kind: Kind.Comment, start: at, end, nameEnd: at, bodyStart: at + 4, bodyEnd })
    this.textStart = end
    return end
  }

  private cdata(at: number): number {
    const close = this.source.indexOf(']]>', at + 9)
    if (this.depth === 0) this.report(xmlProblems.outsideRoot({ start: at, end: at + 9 }))
    if (close < 0) {
      this.report(xmlProblems.unclosedCdata({ start: at, end: at + 9 }))
      return this.end
    }
    this.characters.stretch(at + 9, close)
    if (skipBlanks(this.source, at + 9, close) < close) this.textSolid = true
    return close + 3
  }

  private instruction(at: number): number {
    const { source } = this
    this.flushText(at)
    const nameEnd = skipName(source, at + 2, this.end)
    const close = source.indexOf('?>', nameEnd)
    if (close < 0) {
      this.report(xmlProblems.unclosedInstruction({ start: at, end: at + 2 }))
      return this.end
    }
    const end = close + 2
    this.checkInstruction(at, nameEnd, close)
    this.characters.stretch(nameEnd, close)
    const spans = { start: at, end, nameEnd, bodyStart: nameEnd, bodyEnd: close }
    this.tree.leaf({ kind: Kind.Instruction, ...spans })
    this.textStart = end
    return end
  }

  private checkInstruction(at: number, nameEnd: number, close: number): void {
    const { source } = this
    const target = source.slice(at + 2, nameEnd)
    if (target === 'xml') {
      if (at !== 0) this.report(xmlProblems.misplacedDeclaration({ start: at, end: nameEnd }))
      else if (!DECLARATION.test(source.slice(at, close + 2))) {
        this.report(xmlProblems.badDeclaration({ start: at, end: close + 2 }))
      }
    } else if (
      target === '' ||
      target.toLowerCase() === 'xml' ||
      (nameEnd < close && !isBlank(source.charCodeAt(nameEnd)))
    ) {
      this.report(xmlProblems.badInstruction({ start: at, end: Math.max(nameEnd, at + 2) }))
    }
  }

  private doctype(at: number): number {
    const { source } = this
    this.flushText(at)
    if (this.root >= 0 || this.hasDoctype) {
      this.report(xmlProblems.misplacedDoctype({ start: at, end: at + 9 }))
    }
    this.hasDoctype = true
    const end = doctypeEnd(source, at)
    if (end < 0) {
      this.report(xmlProblems.unclosedDoctype({ start: at, end: at + 9 }))
      return this.end
    }
    this.characters.stretch(at, end)
    const declared = declaredEntities(source.slice(at, end))
    this.characters.entities = declared && new EntityJudge(declared)
    const spans = { start: at, end, nameEnd: at + 9, bodyStart: at + 9, bodyEnd: end - 1 }
    this.tree.leaf({ kind: Kind.Instruction, ...spans })
    this.textStart = end
    return end
  }
}
