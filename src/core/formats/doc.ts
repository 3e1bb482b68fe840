import { timesOf } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Position } from '../document/line-map.ts'
import { LineMap } from '../document/line-map.ts'
import type { Span } from '../document/problem.ts'
import type { Spliced } from '../document/splice.ts'
import type { Tree } from '../document/tree.ts'
import { firstContent } from '../document/unit-list.ts'
import type { DialectReader, Format, ScalarSort } from './format.ts'
import { foldName } from './format.ts'

/** The text that was given, where a document is not that text but was put together from it. */
export interface GivenText {
  lines: LineMap
  /** Where an offset of the document stands in the text: both in UTF-16 code units. */
  offsetOf: (offset: number) => number
}

/** A document that has been read without error: its tree and the format that knows what its nodes mean. */
export class Doc {
  private knownLines: LineMap | undefined
  private hasAnyComments: boolean | undefined
  private knownComments: ReadonlyMap<string, number> | undefined

  constructor(
    readonly format: Format,
    readonly tree: Tree,
    /** Reads more of the same dialect. */
    readonly reader: DialectReader,
    private readonly given?: GivenText,
  ) {}

  /** The same document with other text in some stretches, which are in it where they were in this one. */
  respliced({ text, offsetOf }: Spliced): Doc {
    const { format, reader, given } = this
    return new Doc(format, reader.read(text).tree, reader, {
      lines: given?.lines ?? this.lines,
      offsetOf: (offset) => given?.offsetOf(offsetOf(offset)) ?? offsetOf(offset),
    })
  }

  get lines(): LineMap {
    return (this.knownLines ??= new LineMap(this.tree.source))
  }

  /** The line and column of an offset, in the text that was given. */
  placeAt(offset: number): Position {
    const { lines, given = { lines, offsetOf: (same: number) => same } } = this
    return given.lines.at(given.offsetOf(offset))
  }

  /** A stretch of this document, in the text that was given. */
  givenSpan({ start, end }: Span): Span {
    if (this.given === undefined) return { start, end }
    const { offsetOf } = this.given
    return { start: offsetOf(start), end: Math.max(offsetOf(start), offsetOf(end)) }
  }

  /** Whether there is any comment in it. */
  get hasComments(): boolean {
    return (this.hasAnyComments ??= this.tree.hasKind(Kind.Comment))
  }

  /** How often each comment stands in it, by what it says. */
  get comments(): ReadonlyMap<string, number> {
    return (this.knownComments ??= timesOf(this.eachComment()))
  }

  private *eachComment(): Generator<string> {
    if (!this.hasComments) return
    for (let node = 0; node < this.tree.length; node++)
      if (this.kind(node) === Kind.Comment) yield this.commentText(node)
  }

  kind(node: number): Kind {
    return this.tree.kind(node)
  }

  slice(node: number): string {
    return this.tree.slice(node)
  }

  name(node: number): string {
    return this.format.nodeName(this.tree, node)
  }

  /** The name in the form in which two are compared. */
  foldedName(node: number): string {
    return foldName(this.format, this.name(node))
  }

  /** Whether a node has a name, capitals aside where the format takes them for one; mostly without cutting it out. */
  isNamed(node: number, name: string): boolean {
    const { tree, format } = this
    const kind = tree.kind(node)
    if (format.foldsCase) return this.foldedName(node) === foldName(format, name)
    if (kind === Kind.Section || !hasPlainName(tree, node)) return this.name(node) === name
    const start = tree.start(node) + (kind === Kind.Element || kind === Kind.Member ? 1 : 0)
    const length = tree.nameEnd(node) - start - (kind === Kind.Member ? 1 : 0)
    return length === name.length && tree.source.startsWith(name, start)
  }

  /** The decoded value of a leaf. */
  value(node: number): string {
    return this.format.leafValue(this.tree, node)
  }

  commentText(node: number): string {
    return this.format.commentText(this.tree, node)
  }

  /** Whether a node is one value, that another text can stand for. */
  isValue(node: number): boolean {
    const kind = this.kind(node)
    if (kind === Kind.Element) return this.isLeafElement(node)
    return (
      kind === Kind.Attribute ||
      kind === Kind.Property ||
      kind === Kind.Scalar ||
      kind === Kind.Text
    )
  }

  /** The child nodes, attributes and comments among them. */
  children(node: number): number[] {
    const children: number[] = []
    const stop = this.tree.next(node)
    for (let child = node + 1; child < stop; child = this.tree.next(child)) children.push(child)
    return children
  }

  /** The one value of a JSON member, or of a JSON document. */
  memberValue(member: number): number {
    return firstOfKinds(this.tree, member, VALUES)
  }

  /** The node that holds all data: a root element or value, or the document itself; -1 where there is none. */
  root(): number {
    return this.format.root(this.tree)
  }

  /** The sort of a scalar; undefined for all other nodes, and in formats in which all is text. */
  scalarSort(node: number): ScalarSort | undefined {
    return this.kind(node) === Kind.Scalar ? this.format.scalarSort(this.tree, node) : undefined
  }

  /** The decoded text of a leaf, without what tells its sort. */
  leafText(node: number): string {
    return this.format.leafText(this.tree, node)
  }

  /**
   * What a node says as one text: a leaf's decoded text, that of an element without elements, that of a
   * member's value; undefined for what holds entries.
   */
  textOf(node: number): string | undefined {
    switch (this.kind(node)) {
      case Kind.Element:
        return this.isLeafElement(node) ? this.elementText(node) : undefined
      case Kind.Member:
        return this.textOf(this.memberValue(node))
      case Kind.Attribute:
      case Kind.Property:
      case Kind.Text:
      case Kind.Scalar:
        return this.leafText(node)
      default:
        return undefined
    }
  }

  /** The children that a step of a place names: `@name` attributes, else elements, members, sections and properties. */
  childrenNamed(parent: number, step: string): number[] {
    const found: number[] = []
    for (let at = this.nextNamed(parent, parent + 1, step); at >= 0;) {
      found.push(at)
      at = this.nextNamed(parent, this.tree.next(at), step)
    }
    return found
  }

  /** What the first of them holds: itself, or the value of a member; -1 where there is none. */
  childAt(parent: number, step: string): number {
    const child = this.nextNamed(parent, parent + 1, step)
    return child >= 0 && this.kind(child) === Kind.Member ? this.memberValue(child) : child
  }

  /** The first child from a sibling on that a step names; -1 where there is none. */
  private nextNamed(parent: number, from: number, step: string): number {
    const isAttribute = step.startsWith('@')
    const name = isAttribute ? step.slice(1) : step
    const stop = this.tree.next(parent)
    for (let child = from; child < stop; child = this.tree.next(child)) {
      const kind = this.tree.kind(child)
      const isOfKind = isAttribute ? kind === Kind.Attribute : NAMED.has(kind)
      if (isOfKind && this.isNamed(child, name)) return child
    }
    return -1
  }

  /** Whether an element holds neither elements nor instructions, so that its text is its own value. */
  isLeafElement(node: number): boolean {
    const { tree } = this
    const stop = tree.next(node)
    for (let child = firstContent(tree, node); child < stop; child = tree.next(child)) {
      const kind = tree.kind(child)
      if (kind === Kind.Element || kind === Kind.Instruction) return false
    }
    return true
  }

  /** Whether an element is nothing but its text: it has neither attributes nor elements. */
  isChildless(node: number): boolean {
    const { tree } = this
    const stop = tree.next(node)
    for (let child = node + 1; child < stop; child = tree.next(child)) {
      const kind = tree.kind(child)
      if (kind !== Kind.Text && kind !== Kind.Comment) return false
    }
    return true
  }

  /** The decoded text of a leaf element: its runs of text, put together where a comment parts them. */
  elementText(node: number): string {
    const { tree } = this
    const stop = tree.next(node)
    let text = ''
    for (let child = firstContent(tree, node); child < stop; child = tree.next(child)) {
      if (tree.kind(child) === Kind.Text) text += this.value(child)
    }
    return text
  }
}

const QUOTE = 34
const BACKSLASH = 92

/** Whether a name is the node's text between quotes: JSON may write one name in several ways. */
export function hasPlainName(tree: Tree, node: number): boolean {
  if (tree.kind(node) !== Kind.Member) return true
  const { source } = tree
  const from = tree.start(node)
  if (source.charCodeAt(from) !== QUOTE) return false
  for (let at = tree.nameEnd(node) - 2; at > from; at--)
    if (source.charCodeAt(at) === BACKSLASH) return false
  return true
}

/** A source as a document, read by itself; undefined where something is wrong with it. */
export function readDoc(format: Format, source: string): Doc | undefined {
  const reader = format.reader([source])
  const { tree, problems } = reader.read(source)
  return problems.length > 0 ? undefined : new Doc(format, tree, reader)
}

const NAMED: ReadonlySet<Kind> = new Set([Kind.Element, Kind.Member, Kind.Section, Kind.Property])
/** What holds the data of a document or of a member. */
export const VALUES: ReadonlySet<Kind> = new Set([Kind.Object, Kind.Array, Kind.Scalar])

/** The first child of one of some kinds; -1 where there is none. */
export function firstOfKinds(tree: Tree, parent: number, kinds: ReadonlySet<Kind>): number {
  const stop = tree.next(parent)
  for (let child = parent + 1; child < stop; child = tree.next(child))
    if (kinds.has(tree.kind(child))) return child
  return -1
}
