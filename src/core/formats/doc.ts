import { Kind } from '../document/kind.ts'
import { LineMap } from '../document/line-map.ts'
import type { Tree } from '../document/tree.ts'
import { firstContent } from '../document/unit-list.ts'
import type { DialectReader, Format } from './format.ts'

/** A document that has been read without error: its tree and the format that knows what its nodes mean. */
export class Doc {
  private knownLines: LineMap | undefined

  constructor(
    readonly format: Format,
    readonly tree: Tree,
    /** Reads more of the same dialect. */
    readonly reader: DialectReader,
  ) {}

  get lines(): LineMap {
    return (this.knownLines ??= new LineMap(this.tree.source))
  }

  kind(node: number): Kind {
    return this.tree.kind[node] as Kind // the array holds nothing but kinds
  }

  slice(node: number): string {
    return this.tree.slice(node)
  }

  name(node: number): string {
    return this.format.nodeName(this.tree, node)
  }

  /** Whether a node has a name, mostly without cutting it out. */
  isNamed(node: number, name: string): boolean {
    const { tree } = this
    const kind = tree.kind[node]
    if (kind === Kind.Section || !hasPlainName(tree, node)) return this.name(node) === name
    const start = (tree.start[node] ?? 0) + (kind === Kind.Element || kind === Kind.Member ? 1 : 0)
    const length = (tree.nameEnd[node] ?? 0) - start - (kind === Kind.Member ? 1 : 0)
    return length === name.length && tree.source.startsWith(name, start)
  }

  /** The decoded value of a leaf. */
  value(node: number): string {
    return this.format.leafValue(this.tree, node)
  }

  commentText(node: number): string {
    return this.format.commentText(this.tree, node)
  }

  /** The child nodes, attributes and comments among them. */
  children(node: number): number[] {
    const children: number[] = []
    const stop = this.tree.next[node] ?? 0
    for (let child = node + 1; child < stop; child = this.tree.next[child] ?? stop)
      children.push(child)
    return children
  }

  /** The one value of a JSON member, or of a JSON document. */
  memberValue(member: number): number {
    return firstOfKinds(this.tree, member, VALUES)
  }

  /** The root element of an XML document, the root value of a JSON one; the document itself in INI. */
  root(): number {
    if (this.format.name === 'ini') return 0
    return firstOfKinds(this.tree, 0, this.format.name === 'xml' ? ELEMENTS : VALUES)
  }

  /** Whether an element has no child elements, so that its text is its own value. */
  isLeafElement(node: number): boolean {
    const { tree } = this
    const stop = tree.next[node] ?? 0
    for (let child = firstContent(tree, node); child < stop; child = tree.next[child] ?? stop) {
      if (tree.kind[child] === Kind.Element) return false
    }
    return true
  }

  /** Whether an element is nothing but its text: it has neither attributes nor elements. */
  isChildless(node: number): boolean {
    const { kind, next } = this.tree
    const stop = next[node] ?? 0
    for (let child = node + 1; child < stop; child = next[child] ?? stop)
      if (kind[child] !== Kind.Text && kind[child] !== Kind.Comment) return false
    return true
  }

  /** The decoded text of a leaf element: its runs of text, put together where a comment parts them. */
  elementText(node: number): string {
    const { tree } = this
    const stop = tree.next[node] ?? 0
    let text = ''
    for (let child = firstContent(tree, node); child < stop; child = tree.next[child] ?? stop) {
      if (tree.kind[child] === Kind.Text) text += this.value(child)
    }
    return text
  }
}

const QUOTE = 34
const BACKSLASH = 92

/** Whether a name is the node's text between quotes: JSON may write one name in several ways. */
export function hasPlainName({ kind, start, nameEnd, source }: Tree, node: number): boolean {
  if (kind[node] !== Kind.Member) return true
  const from = start[node] ?? 0
  if (source.charCodeAt(from) !== QUOTE) return false
  for (let at = (nameEnd[node] ?? 0) - 2; at > from; at--)
    if (source.charCodeAt(at) === BACKSLASH) return false
  return true
}

/** A source as a document, read by itself; undefined where something is wrong with it. */
export function readDoc(format: Format, source: string): Doc | undefined {
  const reader = format.reader([source])
  const { tree, problems } = reader.read(source)
  return problems.length > 0 ? undefined : new Doc(format, tree, reader)
}

const ELEMENTS = new Set([Kind.Element])
const VALUES = new Set([Kind.Object, Kind.Array, Kind.Scalar])

function firstOfKinds(tree: Tree, parent: number, kinds: ReadonlySet<Kind>): number {
  const stop = tree.next[parent] ?? 0
  for (let child = parent + 1; child < stop; child = tree.next[child] ?? stop) {
    if (kinds.has(tree.kind[child] as Kind)) return child // the array holds nothing but kinds
  }
  return -1
}
