import { firstNotBefore } from './ascending.ts'
import { Kind } from './kind.ts'
import type { NodeRanges } from './node-ranges.ts'
import { Stretches } from './stretches.ts'

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
/** Fewer nodes are copied one by one. */
const FEW = 256

/**
 * The nodes of one document in document order, as parallel arrays: a tree of small objects would
 * take five times the memory. The first child of node `i` is `i + 1`, the node after its subtree is
 * `next[i]`. Node 0 is the document. Filled by a scanner through `open`, `close` and `leaf`, then
 * only read.
 */
export class Tree {
  readonly source: string
  length = 0
  kind = NO_KINDS
  start = NO_NUMBERS
  end = NO_NUMBERS
  nameEnd = NO_NUMBERS
  bodyStart = NO_NUMBERS
  bodyEnd = NO_NUMBERS
  next = NO_NUMBERS
  /** What is left out of this tree, since another has it; undefined where nothing is. */
  left: { of: Tree; stretches: Stretches } | undefined
  /** The tree that nodes were copied from, and which: from one node here to another, and the first one there. */
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

  /** Begins a container, whose end is not known yet; gives its index. */
  open(kind: Kind, start: number, nameEnd: number, bodyStart: number): number {
    const node = this.length
    if (node === this.kind.length) this.grow(this.expected(start))
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
    const node = this.length
    if (node === this.kind.length) this.grow(this.expected(start))
    this.length = node + 1
    this.kind[node] = kind
    this.start[node] = start
    this.nameEnd[node] = nameEnd
    this.bodyStart[node] = bodyStart
    this.bodyEnd[node] = bodyEnd
    this.end[node] = end
    this.next[node] = node + 1
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
    const member = this.length
    const scalar = member + 1
    if (scalar >= this.kind.length) this.grow(this.expected(start))
    this.length = member + 2
    const { kind, nameEnd: nameEnds, bodyStart: bodyStarts, bodyEnd: bodyEnds, next } = this
    kind[member] = Kind.Member
    kind[scalar] = Kind.Scalar
    this.start[member] = start
    this.start[scalar] = value
    nameEnds[member] = nameEnd
    nameEnds[scalar] = value
    bodyStarts[member] = value
    bodyStarts[scalar] = bodyStart
    bodyEnds[member] = end
    bodyEnds[scalar] = bodyEnd
    this.end[member] = end
    this.end[scalar] = end
    next[member] = member + 2
    next[scalar] = member + 2
  }

  /** The node's text as it stands in the source. */
  slice(node: number): string {
    return this.source.slice(this.start[node], this.end[node])
  }

  /** The raw text of what the node holds. */
  body(node: number): string {
    return this.source.slice(this.bodyStart[node], this.bodyEnd[node])
  }

  /**
   * Adds nodes of another tree, whose text stands at `at` in this one, too: siblings with all that is in
   * them, from `node` to before `stop`.
   */
  copy(from: Tree, node: number, stop: number, at: number): void {
    const first = this.length
    const length = first + stop - node
    if (length > this.kind.length) this.grow(Math.max(length, this.expected(at)))
    const shift = at - (from.start[node] ?? 0)
    this.put(from, node, stop, shift)
    this.like = from
    this.copies.push(first)
    this.copyStops.push(length)
    this.origins.push(node)
  }

  /** Adds nodes of another tree whose text stands `shift` code units further on in this one; there has to be room. */
  private put(from: Tree, node: number, stop: number, shift: number): void {
    const first = this.length
    this.length = first + stop - node
    if (stop - node < FEW) {
      for (let i = node, to = first; i < stop; i++, to++) {
        this.kind[to] = from.kind[i] ?? 0
        this.start[to] = (from.start[i] ?? 0) + shift
        this.end[to] = (from.end[i] ?? 0) + shift
        this.nameEnd[to] = (from.nameEnd[i] ?? 0) + shift
        this.bodyStart[to] = (from.bodyStart[i] ?? 0) + shift
        this.bodyEnd[to] = (from.bodyEnd[i] ?? 0) + shift
        this.next[to] = (from.next[i] ?? 0) + first - node
      }
      return
    }
    this.kind.set(from.kind.subarray(node, stop), first)
    copyShifted(from.start, this.start, node, stop, first, shift)
    copyShifted(from.end, this.end, node, stop, first, shift)
    copyShifted(from.nameEnd, this.nameEnd, node, stop, first, shift)
    copyShifted(from.bodyStart, this.bodyStart, node, stop, first, shift)
    copyShifted(from.bodyEnd, this.bodyEnd, node, stop, first, shift)
    copyShifted(from.next, this.next, node, stop, first, first - node)
  }

  /** Notes siblings of another tree, from `node` to before `stop`, whose text stands at `at` in this one, too. */
  leaveOut(from: Tree, node: number, stop: number, at: number): void {
    this.left ??= { of: from, stretches: new Stretches() }
    this.left.stretches.add(this.length, node, stop, at)
  }

  /**
   * The same document with nodes of another tree put in where stretches say.
   *
   * @param from the tree that the stretches speak of
   */
  with(from: Tree, stretches: Stretches): Tree {
    const { before, at } = stretches
    const counts = stretches.stop.map((stop, i) => stop - (stretches.from[i] ?? 0))
    const tree = new Tree(
      this.source,
      counts.reduce((sum, count) => sum + count, this.length),
    )
    let node = 0
    let added = 0
    for (let i = 0; i <= before.length; i++) {
      const stop = before[i] ?? this.length
      tree.put(this, node, stop, 0)
      for (let each = node; each < stop; each++) {
        // what begins before the stretch that follows may reach over it
        let inside = 0
        const next = this.next[each] ?? 0
        for (let j = i; (before[j] ?? Infinity) <= next; j++) {
          if (before[j] === next && (at[j] ?? 0) >= (this.end[each] ?? 0)) break
          inside += counts[j] ?? 0
        }
        tree.next[each + added] = next + added + inside
      }
      if (i === before.length) break
      tree.copy(from, stretches.from[i] ?? 0, stretches.stop[i] ?? 0, at[i] ?? 0)
      added += counts[i] ?? 0
      node = stop
    }
    return tree
  }

  /** The same document without some of its nodes: siblings with all that is in them, in their order. */
  without(ranges: NodeRanges): Tree {
    const { from, stop } = ranges
    const tree = new Tree(this.source, this.length - ranges.before(this.length))
    let node = 0
    let removed = 0
    for (let i = 0; i <= from.length; i++) {
      const end = from[i] ?? this.length
      tree.put(this, node, end, 0)
      for (let each = node; each < end; each++) {
        const next = this.next[each] ?? 0
        let inside = 0
        for (let j = i; (from[j] ?? Infinity) < next; j++) inside += (stop[j] ?? 0) - (from[j] ?? 0)
        tree.next[each - removed] = next - removed - inside
      }
      node = stop[i] ?? this.length
      removed += node - end
    }
    return tree
  }

  /** Whether nodes of another tree were copied into this one. */
  hasCopiesOf(other: Tree): boolean {
    return this.like === other
  }

  /** The node of another tree that a node was copied from, with its text and all that is in it; -1 where there is none. */
  originOf(node: number, other: Tree): number {
    const at = this.like === other ? this.copyAround(node) : -1
    return at < 0 ? -1 : node - (this.copies[at] ?? 0) + (this.origins[at] ?? 0)
  }

  /** The node after all that were copied together with a node that was copied. */
  copyStop(node: number): number {
    return this.copyStops[this.copyAround(node)] ?? 0
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
    return (this.length / Math.max(1, at)) * this.source.length * SLACK
  }

  private grow(least: number): void {
    this.makeRoom(Math.max(least, this.kind.length * GROWTH))
  }

  /** Makes room for so many nodes and some more, and keeps those that are there. */
  private makeRoom(nodes: number): void {
    const room = new Room(Math.ceil(nodes) + 16)
    this.kind = room.bytes(this.kind)
    this.start = room.numbers(this.start)
    this.end = room.numbers(this.end)
    this.nameEnd = room.numbers(this.nameEnd)
    this.bodyStart = room.numbers(this.bodyStart)
    this.bodyEnd = room.numbers(this.bodyEnd)
    this.next = room.numbers(this.next)
  }
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
  for (let i = start; i < stop; i++) to[i + by] = (from[i] ?? 0) + shift
}
