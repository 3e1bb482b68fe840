import { firstNotBefore } from '../document/ascending.ts'
import { Kind } from '../document/kind.ts'
import type { NodeRanges } from '../document/node-ranges.ts'
import type { Doc } from '../formats/doc.ts'
import { identityText } from '../identity/expression.ts'
import type { Indexed, SomeEntries } from '../identity/identities.ts'
import type { EntryIndex } from '../identity/finder.ts'
import { RanksOfSome } from '../identity/identity-table.ts'
import type { LeftOut } from '../identity/siblings.ts'
import { LOOKED_AT } from '../identity/siblings.ts'
import { sameName } from '../identity/links.ts'
import { placeOf } from '../identity/place.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'

/** In place of a node: the document has it as old has it, and has no node of its own for it. */
export const AS_OLD = -2

/** A container's first entries, and a document's first nodes, show how it is laid out: they stay. */
const SAMPLE_ENTRIES = 16
const SAMPLE_NODES = 400

/** The entries of a container in old. */
interface OldEntries {
  doc: Doc
  nodes: number[]
  /** For each whether a comment stands between it and the next. */
  isParted: boolean[]
}

/** What the container holds in another document: entries with a node there, and ranges of old's entries. */
interface OtherEntries {
  doc: Doc
  /** The ranges, by the rank of their entries in old, and the offsets here at which they begin. */
  from: number[]
  stop: number[]
  at: number[]
  /** In their order the nodes, and for each range the complement of its number. */
  order: number[]
}

/** The entries of one container in three documents, to be told which of them nobody touched. */
export class UntouchedEntries {
  /** In how many of the others each entry of old is in a range. */
  private readonly untouched: Uint8Array
  /** In how many of the others each entry of old stands before the next as it does in old. */
  private readonly joined: Uint8Array

  private constructor(
    private readonly old: OldEntries,
    private readonly others: readonly OtherEntries[],
  ) {
    this.untouched = new Uint8Array(old.nodes.length)
    this.joined = new Uint8Array(old.nodes.length)
  }

  /** Undefined where the container holds other than entries of one name and comments, or is one in all documents. */
  static of(docs: Triple<Doc>, containers: Triple<number>): UntouchedEntries | undefined {
    if (isOneInAll(docs, containers)) return undefined
    const old = entriesOf(docs[OLD], containers[OLD])
    if (old === undefined) return undefined
    const others: OtherEntries[] = []
    for (const side of [NEW, MINE] as const) {
      const found = new Collector(docs[side], old).collect(containers[side])
      if (found === undefined) return undefined
      others.push(found)
    }
    return new UntouchedEntries(old, others)
  }

  get length(): number {
    return this.old.nodes.length
  }

  /** The place of the entries: with their name, where they have one. */
  placeIn(container: string): string {
    const { doc, nodes } = this.old
    const [first = 0] = nodes
    return doc.kind(first) === Kind.Element ? placeOf(container, doc.name(first)) : container
  }

  /** The entries as far as each document has nodes for them. */
  some(): SomeEntries {
    const { old, others } = this
    return {
      docs: [old.doc, ...others.map(({ doc }) => doc)],
      entries: [
        old.nodes,
        ...others.map(({ doc, order }) =>
          doc === old.doc ? old.nodes : order.filter((item) => item >= 0),
        ),
      ],
      leftOut: [undefined, ...others.map((other) => this.leftOut(other))],
    }
  }

  private leftOut({ doc, from, stop, order }: OtherEntries): LeftOut | undefined {
    const { old } = this
    if (doc === old.doc) return undefined
    const leading = order.slice(0, LOOKED_AT).flatMap((item) => {
      if (item >= 0) return [{ doc, node: item }]
      const first = from[~item] ?? 0
      const some = old.nodes.slice(first, Math.min(stop[~item] ?? 0, first + LOOKED_AT))
      return some.map((node) => ({ doc: old.doc, node }))
    })
    return { from, stop, leading: leading.slice(0, LOOKED_AT) }
  }

  /**
   * Whether an identity tells all entries apart in each document, also those that are left out from those
   * that are not, and those that are in old stand in its order.
   */
  areToldBy(indexed: Indexed): boolean {
    return this.others.every((other) => {
      const walk = new Walk(this.old, other)
      if (!walk.isToldBy(indexed)) return false
      for (let rank = 0; rank < this.old.nodes.length; rank++) {
        this.untouched[rank] = (this.untouched[rank] ?? 0) + (walk.isInRange[rank] ?? 0)
        this.joined[rank] = (this.joined[rank] ?? 0) + (walk.isJoined[rank] ?? 0)
      }
      return true
    })
  }

  /**
   * Adds the nodes of old that can be left out, and to the node before each range how many entries it
   * has; gives the index of the entries that stay, or undefined where all do.
   */
  leaveOut(
    { index }: Indexed,
    left: NodeRanges,
    behind: Map<number, number>,
  ): Omit<EntryIndex, 'doc'> | undefined {
    const { doc, nodes } = this.old
    const isLeft = new Uint8Array(nodes.length)
    const before = left.length
    let first = Math.max(this.firstBehindSample(), 1)
    while (first < nodes.length) {
      let stop = first
      while (this.isBetween(stop)) stop++
      if (stop > first) {
        behind.set((nodes[first - 1] ?? 0) - left.countBefore(left.length), stop - first)
        left.add(nodes[first] ?? 0, doc.tree.next[nodes[stop - 1] ?? 0] ?? 0)
        isLeft.fill(1, first, stop)
      }
      first = stop + 1
    }
    return left.length === before ? undefined : this.indexOfOthers(index, isLeft, before, left)
  }

  private indexOfOthers(
    { ranks }: EntryIndex,
    isLeft: Uint8Array,
    before: number,
    left: NodeRanges,
  ): Omit<EntryIndex, 'doc'> {
    const { nodes } = this.old
    const some = new Int32Array(nodes.length).fill(-1)
    const kept: number[] = []
    let range = before
    for (const [rank, node] of nodes.entries()) {
      if (isLeft[rank] === 1) continue
      while ((left.from[range] ?? Infinity) < node) range++
      some[rank] = kept.length
      kept.push(node - left.countBefore(range))
    }
    return { nodes: kept, ranks: new RanksOfSome(ranks, some) }
  }

  /** Whether nobody touched an entry, nor what stands between it and those around it. */
  private isBetween(rank: number): boolean {
    const { untouched, joined, others } = this
    const all = others.length
    return untouched[rank] === all && joined[rank - 1] === all && joined[rank] === all
  }

  /** The first entry of old that in no document is one of the first, nor among its first nodes. */
  private firstBehindSample(): number {
    const { old, others } = this
    const documents = [asOld(old.doc, old), ...others]
    return Math.max(...documents.map((each) => behindSample(old, each)))
  }
}

/** A document that has all entries as old has them. */
function asOld(doc: Doc, { nodes }: OldEntries): OtherEntries {
  return { doc, from: [0], stop: [nodes.length], at: [-1], order: [~0] }
}

/** The first entry of old that in a document is behind those that show how it is laid out. */
function behindSample(old: OldEntries, { doc, from, stop, order }: OtherEntries): number {
  let [entries, inside, least] = [0, 0, 0]
  const isFull = (): boolean => entries >= SAMPLE_ENTRIES && inside >= SAMPLE_NODES
  const count = ({ tree }: Doc, node: number): void => {
    entries++
    inside += (tree.next[node] ?? 0) - node
  }
  for (const item of order) {
    if (isFull()) break
    if (item >= 0) {
      count(doc, item)
      continue
    }
    for (let rank = from[~item] ?? 0; rank < (stop[~item] ?? 0) && !isFull(); rank++) {
      count(old.doc, old.nodes[rank] ?? 0)
      least = rank + 1
    }
  }
  return least
}

function isOneInAll(docs: Triple<Doc>, containers: Triple<number>): boolean {
  const text = docs[OLD].slice(containers[OLD])
  return SIDES.every(
    (side) => containers[side] === AS_OLD || docs[side].slice(containers[side]) === text,
  )
}

/** The entries of a container of old: elements of one name, or objects. */
function entriesOf(doc: Doc, container: number): OldEntries | undefined {
  const { tree } = doc
  const nodes: number[] = []
  const isParted: boolean[] = []
  const stop = tree.next[container] ?? 0
  for (let node = container + 1; node < stop; node = tree.next[node] ?? stop) {
    const kind = doc.kind(node)
    if (kind === Kind.Attribute) continue
    if (kind === Kind.Comment) {
      isParted[isParted.length - 1] = true
      continue
    }
    if (!isEntry(doc, node, doc, nodes[0] ?? node)) return undefined
    nodes.push(node)
    isParted.push(false)
  }
  return { doc, nodes, isParted }
}

/** Whether a node is of the kind and name of another. */
function isEntry(doc: Doc, node: number, other: Doc, like: number): boolean {
  const kind = doc.kind(node)
  if (kind !== other.kind(like)) return false
  return (
    kind === Kind.Object || (kind === Kind.Element && sameName(doc.tree, node, other.tree, like))
  )
}

/** Collects the entries of a container in another document than old. */
class Collector {
  private readonly found: OtherEntries
  private stretch = 0

  constructor(
    private readonly doc: Doc,
    private readonly old: OldEntries,
  ) {
    this.found = { doc, from: [], stop: [], at: [], order: [] }
  }

  /** Undefined where the container holds something else. */
  collect(container: number): OtherEntries | undefined {
    const { doc, old, found } = this
    if (container === AS_OLD) return asOld(doc, old)
    const { tree } = doc
    const at = tree.left?.stretches.at ?? []
    while ((at[this.stretch] ?? Infinity) < (tree.start[container] ?? 0)) this.stretch++
    const stop = tree.next[container] ?? 0
    for (let node = container + 1; node < stop; node = tree.next[node] ?? stop) {
      const kind = doc.kind(node)
      if (kind === Kind.Attribute) continue
      if (!this.stretchesBefore(tree.start[node] ?? 0)) return undefined
      if (kind !== Kind.Comment) {
        if (!isEntry(doc, node, old.doc, old.nodes[0] ?? 0)) return undefined
        found.order.push(node)
      }
      // an entry of which something is left out cannot be told apart
      if ((at[this.stretch] ?? Infinity) < (tree.end[node] ?? 0)) return undefined
    }
    return this.stretchesBefore(tree.end[container] ?? 0) ? found : undefined
  }

  private stretchesBefore(offset: number): boolean {
    const { found, old } = this
    const stretches = this.doc.tree.left?.stretches
    if (stretches === undefined) return true
    for (; (stretches.at[this.stretch] ?? Infinity) < offset; this.stretch++) {
      const first = stretches.from[this.stretch] ?? 0
      const from = firstNotBefore(old.nodes, first)
      if (old.nodes[from] !== first) return false
      found.order.push(~found.from.length)
      found.from.push(from)
      found.at.push(stretches.at[this.stretch] ?? 0)
      found.stop.push(firstNotBefore(old.nodes, stretches.stop[this.stretch] ?? 0))
    }
    return true
  }
}

/** Goes through what another document holds, and compares it with old. */
class Walk {
  /** For each entry of old whether it is in a range, and whether it stands before the next as it does in old. */
  readonly isInRange: Uint8Array
  readonly isJoined: Uint8Array
  /** The rank of the entry before, and where it ends. */
  private last = -1
  private end = 0

  constructor(
    private readonly old: OldEntries,
    private readonly other: OtherEntries,
  ) {
    this.isInRange = new Uint8Array(old.nodes.length)
    this.isJoined = new Uint8Array(old.nodes.length)
    for (const [i, from] of other.from.entries()) this.isInRange.fill(1, from, other.stop[i])
  }

  isToldBy({ identity, index }: Indexed): boolean {
    const { doc, order } = this.other
    const own = new Set<string>()
    for (const item of order) {
      if (item < 0) {
        if (!this.range(~item)) return false
        continue
      }
      const value = identityText(doc, item, identity)
      if (value === undefined || own.has(value)) return false
      own.add(value)
      const { start, end } = doc.tree
      if (!this.entry(index.ranks.get(value), start[item] ?? 0, end[item] ?? 0)) return false
    }
    return true
  }

  private range(number: number): boolean {
    const { old, other } = this
    const { tree } = old.doc
    const [first, last] = [other.from[number] ?? 0, (other.stop[number] ?? 0) - 1]
    if (first <= this.last) return false
    const [from, to] = [old.nodes[first] ?? 0, old.nodes[last] ?? 0]
    const at = other.at[number] ?? 0
    this.join(first, at)
    for (let rank = first; rank < last; rank++)
      this.isJoined[rank] = old.isParted[rank] === true ? 0 : 1
    this.last = last
    this.end = at + (tree.end[to] ?? 0) - (tree.start[from] ?? 0)
    return true
  }

  /** An entry with a node here: what stands in a range here cannot stand here once more. */
  private entry(rank: number | undefined, start: number, end: number): boolean {
    if (rank === undefined) this.end = -1
    else {
      if (rank <= this.last || this.isInRange[rank] === 1) return false
      this.join(rank, start)
      this.last = rank
      this.end = end
    }
    return true
  }

  /** Notes whether an entry that begins at `start` follows the one before as it does in old. */
  private join(rank: number, start: number): void {
    const { old, other } = this
    const before = rank - 1
    if (before < 0 || this.last !== before || this.end < 0 || old.isParted[before] === true) return
    const { source, end, start: starts } = old.doc.tree
    const between = source.slice(end[old.nodes[before] ?? 0], starts[old.nodes[rank] ?? 0])
    if (other.doc.tree.source.slice(this.end, start) === between) this.isJoined[before] = 1
  }
}
