import { Kind } from '../document/kind.ts'
import { MANY_ENTRIES } from '../document/limits.ts'
import { NodeRanges } from '../document/node-ranges.ts'
import type { Tree } from '../document/tree.ts'
import { Stretches } from '../document/stretches.ts'
import { Doc, hasPlainName } from '../formats/doc.ts'
import type { Identities, WholeDoc } from '../identity/identities.ts'
import type { EntryIndex } from '../identity/finder.ts'
import { sameName } from '../identity/links.ts'
import { placeOf } from '../identity/place.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { ChangedSide } from './one-sided.ts'
import { AS_OLD, UntouchedEntries } from './untouched-entries.ts'

/** Documents of which something is left out. */
export interface Thinned {
  docs: Triple<Doc>
  /** Nodes of old, as it is here, to how many entries are left out behind each. */
  leftOutBehind: ReadonlyMap<number, number>
}

/** In place of a node: there is no child of that name here, or it cannot be told which is meant. */
const MISSING = -1
const NONE = -3

/** A document as it was read: what it shares with old may be left out of its tree. */
export class ReadDoc implements WholeDoc {
  private known: Doc | undefined

  /** @param doc without what is left out */
  constructor(readonly doc: Doc) {}

  /** The document with all its nodes. */
  get whole(): Doc {
    return (this.known ??= this.make())
  }

  private make(): Doc {
    const { format, tree, reader } = this.doc
    const { left } = tree
    return left === undefined
      ? this.doc
      : new Doc(format, tree.with(left.of, left.stretches), reader)
  }
}

/**
 * Leaves out of three documents entries that nobody touched: those that stand between others which all
 * three have too, in the same words. Nothing is to be said of them, and their text stands in what is
 * written as part of the blanks before the entry that follows. Most of a big container is so, and what
 * is to be done with its entries is done with the few others.
 *
 * It is done only in containers that no other can be taken for, and only with entries whose identity
 * tells that no other can be meant by them.
 *
 * Undefined where nothing can be left out.
 */
export function withoutUntouched(
  read: Triple<ReadDoc>,
  identities: Identities,
): Thinned | undefined {
  const old = read[OLD].doc
  const isKnown = ({ doc }: ReadDoc): boolean => doc === old || doc.tree.left?.of === old.tree
  if (!read.every(isKnown) || old.root() < 0) return undefined
  const search = new Search(
    triple((side) => read[side].doc),
    identities,
  )
  search.run()
  const { ranges } = search
  if (ranges.length === 0) return undefined
  const thin = new Doc(old.format, old.tree.without(ranges), old.reader)
  for (const [place, index] of search.indexes) identities.setIndex(place, { ...index, doc: thin })
  const docs = triple((side) =>
    read[side].doc === old ? thin : thinned(read[side].doc, old.tree, thin, ranges),
  )
  identities.lookIn([old, docs[NEW], docs[MINE]])
  return { docs, leftOutBehind: search.leftOutBehind }
}

/** A document with what it shares with old, as far as old still has it. */
function thinned({ format, tree, reader }: Doc, whole: Tree, old: Doc, left: NodeRanges): Doc {
  const { before, from, stop, at } = tree.left?.stretches ?? new Stretches()
  const shared = new Stretches()
  for (let i = 0; i < before.length; i++) {
    const first = left.behind(from[i] ?? 0)
    const end = stop[i] ?? 0
    if (first >= end) continue
    const shift = (whole.start[first] ?? 0) - (whole.start[from[i] ?? 0] ?? 0)
    shared.add(
      before[i] ?? 0,
      first - left.before(first),
      end - left.before(end),
      (at[i] ?? 0) + shift,
    )
  }
  return new Doc(format, tree.with(old.tree, shared), reader)
}

/** Goes down from the roots through what has a name of its own, and looks for containers of many entries. */
class Search {
  /** The nodes of old that are left out. */
  readonly ranges = new NodeRanges()
  /** Of each place from which entries are left out: those that stay. */
  readonly indexes = new Map<string, Omit<EntryIndex, 'doc'>>()
  readonly leftOutBehind = new Map<number, number>()

  constructor(
    private readonly docs: Triple<Doc>,
    private readonly identities: Identities,
  ) {}

  run(): void {
    const old = this.docs[OLD]
    this.inside(
      triple((side) => (this.docs[side] === old && side !== OLD ? AS_OLD : this.docs[side].root())),
      '',
    )
  }

  private inside(nodes: Triple<number>, place: string): void {
    const old = this.docs[OLD]
    const kind = old.kind(nodes[OLD])
    if (!this.isOneContainer(nodes, kind)) return
    if (kind === Kind.Array) this.leaveOut(nodes, place)
    if (kind !== Kind.Element && kind !== Kind.Object) return
    const children = old.children(nodes[OLD]).filter((child) => old.kind(child) === childKind(kind))
    if (children.length >= MANY_ENTRIES) {
      if (kind === Kind.Element) this.leaveOut(nodes, place)
      return
    }
    for (const child of children) this.child(nodes, child, place)
  }

  /** Whether a container begins in all documents with the same words. */
  private isOneContainer(nodes: Triple<number>, kind: Kind): boolean {
    const { docs } = this
    const opening = (doc: Doc, node: number): string =>
      kind === Kind.Element
        ? doc.tree.source.slice(doc.tree.start[node], doc.tree.bodyStart[node])
        : ''
    const old = opening(docs[OLD], nodes[OLD])
    return ([NEW, MINE] as const).every(
      (side) =>
        nodes[side] === AS_OLD ||
        (docs[side].kind(nodes[side]) === kind && opening(docs[side], nodes[side]) === old),
    )
  }

  /** A child of its own name in all documents. */
  private child(nodes: Triple<number>, child: number, place: string): void {
    const { tree } = this.docs[OLD]
    if ((tree.next[child] ?? 0) - child < MANY_ENTRIES) return
    const found = triple((side) =>
      side === OLD
        ? this.only(this.docs[OLD], nodes[OLD], child)
        : this.childOf(side, nodes[side], child),
    )
    if (found.includes(NONE)) return
    const name = this.docs[OLD].name(child)
    const values = triple((side) =>
      found[side] === AS_OLD || tree.kind[child] !== Kind.Member
        ? found[side]
        : this.docs[side].memberValue(found[side]),
    )
    this.inside(values, placeOf(place, name))
  }

  private childOf(side: ChangedSide, container: number, child: number): number {
    if (container === AS_OLD) return AS_OLD
    const { tree } = this.docs[side]
    const own = this.only(this.docs[side], container, child)
    const stretches = tree.left?.stretches
    const around = stretches?.around(child) ?? -1
    if (around < 0 || stretches === undefined) return own
    if (own !== MISSING) return NONE
    return standsIn(tree, container, stretches.at[around] ?? 0) ? AS_OLD : NONE
  }

  /** The one child with the name of a child of old. */
  private only(doc: Doc, container: number, child: number): number {
    const { tree } = this.docs[OLD]
    let found = MISSING
    let count = 0
    const stop = doc.tree.next[container] ?? 0
    for (let each = container + 1; each < stop; each = doc.tree.next[each] ?? stop) {
      if (++count > MANY_ENTRIES * 2) return NONE
      if (doc.tree.kind[each] !== tree.kind[child]) continue
      if (!hasPlainName(doc.tree, each)) return NONE
      if (!sameName(doc.tree, each, tree, child)) continue
      if (found !== MISSING) return NONE
      found = each
    }
    return found
  }

  private leaveOut(nodes: Triple<number>, place: string): void {
    const entries = UntouchedEntries.of(this.docs, nodes)
    if (entries === undefined || entries.length < MANY_ENTRIES) return
    const at = entries.placeIn(place)
    const indexed = this.identities.ofSome(at, entries.some())
    if (indexed === undefined || !entries.areToldBy(indexed)) return
    const index = entries.leaveOut(indexed, this.ranges, this.leftOutBehind)
    if (index !== undefined) this.indexes.set(at, index)
  }
}

/** The kind of what a container holds by name. */
function childKind(kind: Kind): Kind {
  return kind === Kind.Element ? Kind.Element : Kind.Member
}

/** Whether an offset stands directly in a container, and not in what it holds. */
function standsIn(tree: Tree, container: number, offset: number): boolean {
  if (offset < (tree.start[container] ?? 0) || offset >= (tree.end[container] ?? 0)) return false
  const stop = tree.next[container] ?? 0
  for (let each = container + 1; each < stop; each = tree.next[each] ?? stop)
    if ((tree.start[each] ?? 0) <= offset && offset < (tree.end[each] ?? 0)) return false
  return true
}
