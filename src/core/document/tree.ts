import { firstNotBefore } from './ascending.ts'
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

/** Siblings with all that is in them that were copied from another tree. */
export interface NodeCopy {
  /** The first node here, and the one there that it was copied from. */
  first: number
  origin: number
  count: number
}

/** At first there is room for one node to so many code units: enough to see how many the document has. */
const FIRST_SHARE = 128
/** A source that is no longer than this gets room for as many nodes as one mostly has. */
const SHORT = 1 << 16
const SHORT_SHARE = 8
/** How much longer the arrays get at least when they are full, and how much more than they seem to need. */
const GROWTH = 1.4
const SLACK = 1.04
/** The arrays of a tree before there is room for any node. */
const NO_KINDS: Uint8Array = new Uint8Array(0)
const NO_NUMBERS: Int32Array = new Int32Array(0)

/**
 * The nodes of one document in document order, as parallel arrays: a tree of small objects would
 * take five times the memory. The first child of node `i` is `i + 1`, the node after its subtree is
 * `next(i)`. Node 0 is the document. Filled by a scanner through `open`, `close` and `add`, then
 * only read. Whoever asks for a node that is not there gets a RangeError and not a wrong offset.
 */
export class Tree {
  readonly source: string
  private count = 0
  private kinds = NO_KINDS
  private starts = NO_NUMBERS
  private ends = NO_NUMBERS
  private nameEnds = NO_NUMBERS
  private bodyStarts = NO_NUMBERS
  private bodyEnds = NO_NUMBERS
  private nexts = NO_NUMBERS
  /** The tree that nodes were copied from; which nodes here, each range from one to before another, and the first one there. */
  private like: Tree | undefined
  private readonly copies: number[] = []
  private readonly copyStops: number[] = []
  private readonly origins: number[] = []
  private lastCopy = 0

  /** @param nodes how many nodes the document has, as far as that can be told */
  constructor(
    source: string,
    nodes = source.length / (source.length > SHORT ? FIRST_SHARE : SHORT_SHARE),
  ) {
    this.source = source
    this.makeRoom(nodes * SLACK)
  }

  /** The tree of a document that is not there: it holds nothing. */
  static ofNothing(): Tree {
    const tree = new Tree('')
    tree.close(tree.open(Kind.Document, 0, 0, 0), 0, 0)
    return tree
  }

  /** How many nodes there are. */
  get length(): number {
    return this.count
  }

  // What is known of a node

  kind(node: number): Kind {
    return this.kinds[node] ?? noNode(node)
  }

  start(node: number): number {
    return this.starts[node] ?? noNode(node)
  }

  end(node: number): number {
    return this.ends[node] ?? noNode(node)
  }

  nameEnd(node: number): number {
    return this.nameEnds[node] ?? noNode(node)
  }

  bodyStart(node: number): number {
    return this.bodyStarts[node] ?? noNode(node)
  }

  bodyEnd(node: number): number {
    return this.bodyEnds[node] ?? noNode(node)
  }

  /** The node after all that is in this one. */
  next(node: number): number {
    return this.nexts[node] ?? noNode(node)
  }

  /** Whether any node is of a kind. */
  hasKind(kind: Kind): boolean {
    return this.kinds.subarray(0, this.count).includes(kind)
  }

  /** The node's text as it stands in the source. */
  slice(node: number): string {
    return this.source.slice(this.start(node), this.end(node))
  }

  /** The raw text of what the node holds. */
  body(node: number): string {
    return this.source.slice(this.bodyStart(node), this.bodyEnd(node))
  }

  /** The last node in document order that starts before an offset; -1 where none does. */
  lastBefore(offset: number): number {
    return firstNotBefore(this.starts, offset, this.count) - 1
  }

  // How it is filled

  /** Begins a container, whose end is not known yet; gives its index. */
  open(kind: Kind, start: number, nameEnd: number, bodyStart: number): number {
    const node = this.count
    if (node === this.kinds.length) this.grow(this.expected(start))
    this.count = node + 1
    this.kinds[node] = kind
    this.starts[node] = start
    this.nameEnds[node] = nameEnd
    this.bodyStarts[node] = bodyStart
    return node
  }

  /** Says where the inside of a container begins, where that was not known when it was opened. */
  begin(node: number, bodyStart: number): void {
    this.bodyStarts[node] = bodyStart
  }

  /** Ends the container `node`: all nodes added since `open` are inside it. With the document the tree is full. */
  close(node: number, bodyEnd: number, end: number): void {
    this.bodyEnds[node] = bodyEnd
    this.ends[node] = end
    this.nexts[node] = this.count
    if (node === 0) this.trim()
  }

  /** Adds a node without children; gives its index. */
  leaf(spans: NodeSpans): number {
    const { kind, start, nameEnd, bodyStart, bodyEnd, end } = spans
    return this.add(kind, start, nameEnd, bodyStart, bodyEnd, end)
  }

  /** The same without an object to tell its spans: most nodes of a document are added so. */
  add(
    kind: Kind,
    start: number,
    nameEnd: number,
    bodyStart: number,
    bodyEnd: number,
    end: number,
  ): number {
    const node = this.count
    if (node === this.kinds.length) this.grow(this.expected(start))
    this.count = node + 1
    this.kinds[node] = kind
    this.starts[node] = start
    this.nameEnds[node] = nameEnd
    this.bodyStarts[node] = bodyStart
    this.bodyEnds[node] = bodyEnd
    this.ends[node] = end
    this.nexts[node] = node + 1
    return node
  }

  /** Adds a member whose value is a scalar, and the scalar, which begins at `value` and holds a body. */
  scalarMember(
    start: number,
    nameEnd: number,
    value: number,
    bodyStart: number,
    bodyEnd: number,
    end: number,
  ): void {
    const member = this.add(Kind.Member, start, nameEnd, value, end, end)
    this.add(Kind.Scalar, value, value, bodyStart, bodyEnd, end)
    this.nexts[member] = this.count
  }

  /**
   * Adds nodes of another tree, whose text stands at `at` in this one, too: siblings with all that is in
   * them, from `node` to before `stop`.
   */
  copy(from: Tree, node: number, stop: number, at: number): void {
    const first = this.count
    const length = first + stop - node
    if (length > this.kinds.length) this.grow(Math.max(length, this.expected(at)))
    const shift = at - from.start(node)
    this.count = length
    this.kinds.set(from.kinds.subarray(node, stop), first)
    copyShifted(from.starts, this.starts, node, stop, first, shift)
    copyShifted(from.ends, this.ends, node, stop, first, shift)
    copyShifted(from.nameEnds, this.nameEnds, node, stop, first, shift)
    copyShifted(from.bodyStarts, this.bodyStarts, node, stop, first, shift)
    copyShifted(from.bodyEnds, this.bodyEnds, node, stop, first, shift)
    copyShifted(from.nexts, this.nexts, node, stop, first, first - node)
    this.like = from
    this.copies.push(first)
    this.copyStops.push(length)
    this.origins.push(node)
  }

  /** The node of another tree that a node was copied from, with its text and all that is in it; -1 where there is none. */
  originOf(node: number, other: Tree): number {
    const at = this.like === other ? this.copyAround(node) : -1
    if (at < 0) return -1
    return node - (this.copies[at] ?? noNode(node)) + (this.origins[at] ?? noNode(node))
  }

  /** The nodes that were copied from another tree, in the order of both; of the tree itself all. */
  copiesOf(other: Tree): NodeCopy[] {
    if (other === this) return [{ first: 0, origin: 0, count: this.count }]
    if (this.like !== other) return []
    return this.copies.map((first, i) => ({
      first,
      origin: this.origins[i] ?? noNode(first),
      count: (this.copyStops[i] ?? noNode(first)) - first,
    }))
  }

  /** The index of the copy that a node is part of; -1 where it is part of none. */
  private copyAround(node: number): number {
    const { copies, copyStops } = this
    const isIn = (at: number): boolean =>
      node >= (copies[at] ?? Infinity) && node < (copyStops[at] ?? 0)
    // nodes are mostly asked for in their order
    if (isIn(this.lastCopy)) return this.lastCopy
    if (isIn(this.lastCopy + 1)) return ++this.lastCopy
    const last = firstNotBefore(copies, node + 1) - 1
    if (!isIn(last)) return -1
    this.lastCopy = last
    return last
  }

  /** How many nodes the whole document has, by how many there are up to an offset. */
  private expected(at: number): number {
    return (this.count / Math.max(1, at)) * this.source.length * SLACK
  }

  private grow(least: number): void {
    this.makeRoom(Math.max(least, this.kinds.length * GROWTH))
  }

  /** Makes room for so many nodes and some more, and keeps those that are there. */
  private makeRoom(nodes: number): void {
    const room = new Room(Math.ceil(nodes) + 16)
    this.kinds = room.bytes(this.kinds)
    this.starts = room.numbers(this.starts)
    this.ends = room.numbers(this.ends)
    this.nameEnds = room.numbers(this.nameEnds)
    this.bodyStarts = room.numbers(this.bodyStarts)
    this.bodyEnds = room.numbers(this.bodyEnds)
    this.nexts = room.numbers(this.nexts)
  }

  /** Lets the arrays end with the last node, so that there is nothing to be read behind it. */
  private trim(): void {
    const { count } = this
    this.kinds = this.kinds.subarray(0, count)
    this.starts = this.starts.subarray(0, count)
    this.ends = this.ends.subarray(0, count)
    this.nameEnds = this.nameEnds.subarray(0, count)
    this.bodyStarts = this.bodyStarts.subarray(0, count)
    this.bodyEnds = this.bodyEnds.subarray(0, count)
    this.nexts = this.nexts.subarray(0, count)
  }
}

function noNode(node: number): never {
  throw new RangeError(`the tree has no node ${node}`)
}

/** The arrays of one tree in one piece of memory: a small file's take longer to get than to fill. */
class Room {
  private readonly memory: ArrayBuffer
  private used = 0

  /** @param capacity how many nodes there is room for */
  constructor(private readonly capacity: number) {
    this.memory = new ArrayBuffer(capacity * (6 * Int32Array.BYTES_PER_ELEMENT + 1))
  }

  /** The next of the arrays of numbers, with what was there so far. */
  numbers(before: Int32Array): Int32Array {
    const array = new Int32Array(this.memory, this.used, this.capacity)
    this.used += array.byteLength
    array.set(before)
    return array
  }

  /** The array of kinds, behind all numbers, with what was there so far. */
  bytes(before: Uint8Array): Uint8Array {
    const array = new Uint8Array(this.memory, this.memory.byteLength - this.capacity)
    array.set(before)
    return array
  }
}

function copyShifted(
  from: Int32Array,
  to: Int32Array,
  start: number,
  stop: number,
  first: number,
  shift: number,
): void {
  const by = first - start
  for (let i = start; i < stop; i++) to[i + by] = (from[i] ?? noNode(i)) + shift
}
