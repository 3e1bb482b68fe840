import { firstNotBefore } from '../../document/ascending.ts'
import { Kind } from '../../document/kind.ts'
import type { Side, Triple } from '../../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../../document/sides.ts'
import type { Tree } from '../../document/tree.ts'
import type { EntryRun } from '../../document/unit-list.ts'
import { surely } from '../../document/surely.ts'
import type { Doc } from '../../formats/doc.ts'
import type { IdentityExpression } from '../../identity/expression.ts'
import { identityText } from '../../identity/expression.ts'
import type { Identities } from '../../identity/identities.ts'
import { placeOf } from '../../identity/place.ts'
import type { SharedNodes } from './shared-nodes.ts'
import { sharedNodes } from './shared-nodes.ts'

/** A container's first entries show how it is laid out: they are units of their own. */
const SAMPLE = 16
/** With fewer entries a run is no less work than its entries. */
const LEAST_RUN = 2

/** The entries of one container in each document, comments aside. */
type Entries = Triple<readonly number[]>

/**
 * Finds runs of entries that nobody touched: all three documents have them one behind the other, in the same
 * words, and nothing else in any document can be meant by one of them. Such a run is one unit of the
 * container's lists, which nothing has to look into. Most of a big container is so.
 */
export class UntouchedRuns {
  private known: { nodes: SharedNodes[]; stops: number[] } | undefined

  /** @param least how many entries a container must have */
  constructor(
    private readonly docs: Triple<Doc>,
    private readonly identities: Identities,
    private readonly least: number,
  ) {}

  /** The runs of a container, in each document; undefined where there are none. */
  of(containers: Triple<number>, place: string): Triple<EntryRun[]> | undefined {
    if (containers.includes(-1) || this.shared.nodes.length === 0) return undefined
    const old = this.docs[OLD]
    const kind = old.kind(containers[OLD])
    if (kind !== Kind.Element && kind !== Kind.Array) return undefined
    const first = firstEntry(old, containers[OLD])
    if (first < 0) return undefined
    const kindOfAll = old.kind(first)
    const ofOld = entriesOf(old, containers[OLD], kindOfAll)
    if (ofOld === undefined || ofOld.length < this.least) return undefined
    const ofNew = entriesOf(this.docs[NEW], containers[NEW], kindOfAll)
    const ofMine = entriesOf(this.docs[MINE], containers[MINE], kindOfAll)
    if (ofNew === undefined || ofMine === undefined) return undefined
    const entries: Entries = [ofOld, ofNew, ofMine]
    const runs = this.sharedRuns(entries)
    if (runs.length === 0 || !this.areToldApart(place, first, entries)) return undefined
    return triple((side) => runs.map((run, id) => runIn(side, run, id)))
  }

  /** Whether in each document every entry has an identity of its own, so that none can be meant by another. */
  private areToldApart(place: string, first: number, entries: Entries): boolean {
    const { docs, identities } = this
    const old = docs[OLD]
    const kind = old.kind(first)
    const identity =
      kind === Kind.Element
        ? identities.ofNamed(place, old.name(first))?.identity
        : identities.ofItems(place, kind as Kind.Object)?.identity // entriesOf takes no others
    if (identity === undefined) return false
    const at = kind === Kind.Element ? placeOf(place, old.name(first)) : place
    return SIDES.every((side) => {
      const found = identities.entriesAt(at, docs[side])
      return areAllOwn(entries[side], found ?? entriesBy(docs[side], entries[side], identity))
    })
  }

  /** What all three documents share, worked out when it is first asked for. */
  private get shared(): { nodes: SharedNodes[]; stops: number[] } {
    if (this.known === undefined) {
      const nodes = sharedNodes(triple((side) => this.docs[side].tree))
      this.known = { nodes, stops: nodes.map(({ stop }) => stop) }
    }
    return this.known
  }

  /** Runs that stand in all three documents. */
  private sharedRuns(entries: Entries): Run[] {
    const { nodes: shared, stops } = this.shared
    const { tree } = this.docs[OLD]
    const old = entries[OLD]
    const runs: Run[] = []
    let at = 0
    for (let rank = 0; rank < old.length; rank++) {
      const node = surely(old[rank])
      while ((stops[at] ?? Infinity) <= node) at++
      const range = shared[at]
      if (range === undefined) break
      let stop = rank
      while (isIn(range, tree, old[stop])) stop++
      if (stop === rank) continue
      const run = inside(entries, rank, stop, range.shifts)
      if (run !== undefined) runs.push(run)
      rank = stop - 1
    }
    return runs
  }
}

/** Whether a node, if it is there, is part of what all share, with all that is in it. */
function isIn({ from, stop }: SharedNodes, tree: Tree, node: number | undefined): boolean {
  return node !== undefined && from <= node && tree.next(node) <= stop
}

/** A run by its first and last node in old, and how much further on they stand in the others. */
interface Run {
  first: number
  last: number
  shifts: Triple<number>
}

function runIn(side: Side, { first, last, shifts }: Run, id: number): EntryRun {
  return { id, first: first + shifts[side], last: last + shifts[side] }
}

/**
 * The run inside shared entries of one rank to before another: without the first and the last, for what
 * stands beside those need not be the same, and without those that show the layout of any document.
 */
function inside(
  [old, fresh, mine]: Entries,
  first: number,
  stop: number,
  shifts: Triple<number>,
): Run | undefined {
  const node = surely(old[first])
  const inNew = firstNotBefore(fresh, node + shifts[NEW])
  const inMine = firstNotBefore(mine, node + shifts[MINE])
  const from = first + Math.max(1, SAMPLE - Math.min(first, inNew, inMine))
  const last = stop - 2
  if (last - from + 1 < LEAST_RUN) return undefined
  return { first: surely(old[from]), last: surely(old[last]), shifts }
}

function firstEntry({ tree }: Doc, container: number): number {
  const stop = tree.next(container)
  for (let node = container + 1; node < stop; node = tree.next(node)) {
    const kind = tree.kind(node)
    if (kind === Kind.Element || kind === Kind.Object) return node
    if (kind !== Kind.Attribute && kind !== Kind.Comment) return -1
  }
  return -1
}

/** The entries of a container; undefined where it holds other than comments and entries of one kind. */
function entriesOf({ tree }: Doc, container: number, wanted: Kind): number[] | undefined {
  const nodes: number[] = []
  const stop = tree.next(container)
  for (let node = container + 1; node < stop; node = tree.next(node)) {
    const kind = tree.kind(node)
    if (kind === Kind.Attribute || kind === Kind.Comment) continue
    if (kind !== wanted) return undefined
    nodes.push(node)
  }
  return nodes
}

/** The entries of a container by an identity. */
function entriesBy(
  doc: Doc,
  nodes: readonly number[],
  identity: IdentityExpression,
): ReadonlyMap<string, number> {
  const found = new Map<string, number>()
  for (const node of nodes) {
    const value = identityText(doc, node, identity)
    if (value !== undefined) found.set(value, node)
  }
  return found
}

/** Whether each entry of a container has an identity of its own. */
function areAllOwn(nodes: readonly number[], found: ReadonlyMap<string, number>): boolean {
  let at = 0
  // of several containers at one place the map may hold another one's
  for (const node of found.values()) if (node !== nodes[at++]) return false
  return at === nodes.length
}
