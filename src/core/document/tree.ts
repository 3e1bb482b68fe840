import { Kind } from './kind.ts'

/** Where a node stands and what it is; offsets are half-open, in UTF-16 code units of the source. */
export interface NodeSpans {
  kind: Kind
  start: number
  end: number
  /** End of the name (element, attribute, member, section, property); `start` where there is none. */
  nameEnd: number
  /** What the node holds: content of a container, a leaf's raw value. */
  bodyStart: number
  bodyEnd: number
}

/** How much longer the arrays get when they are full: a document has about one node to 13 characters. */
const GROWTH = 1.4

/**
 * The nodes of one document in document order, as parallel arrays: a tree of small objects would
 * take five times the memory. The first child of node `i` is `i + 1`, the node after its subtree is
 * `next[i]`. Node 0 is the document. Filled by a scanner through `open`, `close` and `leaf`, then
 * only read.
 */
export class Tree {
  readonly source: string
  length = 0
  kind: Uint8Array
  start: Int32Array
  end: Int32Array
  nameEnd: Int32Array
  bodyStart: Int32Array
  bodyEnd: Int32Array
  next: Int32Array

  constructor(source: string) {
    this.source = source
    const capacity = Math.max(16, source.length >> 4)
    this.kind = new Uint8Array(capacity)
    this.start = new Int32Array(capacity)
    this.end = new Int32Array(capacity)
    this.nameEnd = new Int32Array(capacity)
    this.bodyStart = new Int32Array(capacity)
    this.bodyEnd = new Int32Array(capacity)
    this.next = new Int32Array(capacity)
  }

  /** Begins a container, whose end is not known yet; gives its index. */
  open(kind: Kind, start: number, nameEnd: number, bodyStart: number): number {
    const node = this.length
    if (node === this.kind.length) this.grow()
    this.length = node + 1
    this.kind[node] = kind
    this.start[node] = start
    this.nameEnd[node] = nameEnd
    this.bodyStart[node] = bodyStart
    return node
  }

  /** Ends the container `node`: all nodes added since `open` are inside it. */
  close(node: number, bodyEnd: number, end: number): void {
    this.bodyEnd[node] = bodyEnd
    this.end[node] = end
    this.next[node] = this.length
  }

  /** Adds a node without children; gives its index. */
  leaf(spans: NodeSpans): number {
    const node = this.open(spans.kind, spans.start, spans.nameEnd, spans.bodyStart)
    this.close(node, spans.bodyEnd, spans.end)
    return node
  }

  /** Adds an attribute, of which a document has most: a leaf, without an object to tell its spans. */
  attribute(start: number, nameEnd: number, bodyStart: number, bodyEnd: number): number {
    const node = this.open(Kind.Attribute, start, nameEnd, bodyStart)
    this.close(node, bodyEnd, bodyEnd + 1)
    return node
  }

  /** The node's text as it stands in the source. */
  slice(node: number): string {
    return this.source.slice(this.start[node], this.end[node])
  }

  /** The raw text of what the node holds. */
  body(node: number): string {
    return this.source.slice(this.bodyStart[node], this.bodyEnd[node])
  }

  private grow(): void {
    const capacity = Math.ceil(this.kind.length * GROWTH) + 16
    const wider = (from: Int32Array): Int32Array => {
      const to = new Int32Array(capacity)
      to.set(from)
      return to
    }
    const kind = new Uint8Array(capacity)
    kind.set(this.kind)
    this.kind = kind
    this.start = wider(this.start)
    this.end = wider(this.end)
    this.nameEnd = wider(this.nameEnd)
    this.bodyStart = wider(this.bodyStart)
    this.bodyEnd = wider(this.bodyEnd)
    this.next = wider(this.next)
  }
}
