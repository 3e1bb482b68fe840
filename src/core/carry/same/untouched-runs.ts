import { firstNotBefore } from '../../document/ascending.ts'
import { Kind } from '../../document/kind.ts'
import { sameName } from '../../document/same-text.ts'
import type { Triple } from '../../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../../document/sides.ts'
import type { EntryRun } from '../../document/unit-list.ts'
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

/** The entries of one container in one document. */
interface Entries {
  nodes: number[]
  /** For each whether a comment stands between it and the next. */
  isParted: boolean[]
}

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
    const ofOld = entriesOf(old, containers[OLD], old, first)
    if (ofOld === undefined || ofOld.nodes.length < this.least) return undefined
    const ofNew = entriesOf(this.docs[NEW], containers[NEW], old, first)
    const ofMine = entriesOf(this.docs[MINE], containers[MINE], old, first)
    if (ofNew === undefined || ofMine === undefined) return undefined
    const runs = this.sharedRuns(ofOld, [ofOld, ofNew, ofMine])
    if (runs.length === 0) return undefined
    if (!this.areToldApart(place, first, [ofOld, ofNew, ofMine])) return undefined
    return triple((side) => runs.map((run) => shifted(run, side)))
  }

  /** Whether in each document every entry has an identity of its own, so that none can be meant by another. */
  private areToldApart(place: string, first: number, all: Triple<Entries>): boolean {
    const { docs, identities } = this
    const old = docs[OLD]
    const kind = old.kind(first)
    const identity =
      kind === Kind.Element
        ? identities.ofElements(place, old.name(first))
        : identities.ofItems(place, kind as Kind.Object) // entriesOf takes no others
    if (identity === undefined) return false
    const at = kind === Kind.Element ? placeOf(place, old.name(first)) : place
    return SIDES.every((side) => {
      const found = identities.entriesAt(at, docs[side])
      return areAllOwn(all[side], found ?? entriesBy(docs[side], all[side], identity))
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

  /** Runs that stand in all three, without the first and the last of what is the same: what stands beside those need not be. */
  private sharedRuns(old: Entries, all: Triple<Entries>): Run[] {
    const { nodes: shared, stops } = this.shared
    const { tree } = this.docs[OLD]
    const runs: Run[] = []
    let at = firstNotBefore(stops, old.nodes[0] ?? -1)
    let first = -1
    const finish = (rank: number, shifts: Triple<number>): void => {
      const run = first < 0 ? undefined : inside(all, first, rank, shifts)
      if (run !== undefined) runs.push({ ...run, id: runs.length })
      first = -1
    }
    for (const [rank, node] of old.nodes.entries()) {
      while ((shared[at]?.stop ?? Infinity) <= node) {
        finish(rank, shared[at]?.shifts ?? NOWHERE)
        at++
      }
      const range = shared[at]
      if (range === undefined) break
      if (range.from > node || range.stop < tree.next(node)) {
        finish(rank, range.shifts)
        continue
      }
      if (first < 0) first = rank
      if (old.isParted[rank] === true) finish(rank + 1, range.shifts)
    }
    finish(old.nodes.length, shared[at]?.shifts ?? NOWHERE)
    return runs
  }
}

const NOWHERE: Triple<number> = [0, 0, 0]

/** A run in old, and how much further on its nodes stand in the others. */
interface Run extends EntryRun {
  shifts: Triple<number>
}

/** The run inside entries of one rank to before another, behind those that show the layout of any document. */
function inside(
  [old, fresh, mine]: Triple<Entries>,
  first: number,
  stop: number,
  shifts: Triple<number>,
): Omit<Run, 'id'> | undefined {
  const node = old.nodes[first] ?? -1
  const inNew = firstNotBefore(fresh.nodes, node + shifts[NEW])
  const inMine = firstNotBefore(mine.nodes, node + shifts[MINE])
  const rank = first + Math.max(1, SAMPLE - Math.min(first, inNew, inMine))
  const count = stop - 1 - rank
  if (count < LEAST_RUN) return undefined
  const [from, last] = [old.nodes[rank] ?? -1, old.nodes[rank + count - 1] ?? -1]
  return { first: from, last, count, shifts }
}

function shifted({ id, first, last, count, shifts }: Run, side: 0 | 1 | 2): EntryRun {
  return { id, count, first: first + shifts[side], last: last + shifts[side] }
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

/** The entries of a container; undefined where it holds other than comments and entries like the one given. */
function entriesOf(
  { tree }: Doc,
  container: number,
  { tree: other }: Doc,
  like: number,
): Entries | undefined {
  const nodes: number[] = []
  const isParted: boolean[] = []
  const stop = tree.next(container)
  const wanted = other.kind(like)
  for (let node = container + 1; node < stop; node = tree.next(node)) {
    const kind = tree.kind(node)
    if (kind === Kind.Attribute) continue
    if (kind === Kind.Comment) {
      if (nodes.length > 0) isParted[nodes.length - 1] = true
      continue
    }
    if (kind !== wanted) return undefined
    if (kind === Kind.Element && !sameName(tree, node, other, like)) return undefined
    nodes.push(node)
    isParted.push(false)
  }
  return { nodes, isParted }
}

/** The entries of a container by an identity. */
function entriesBy(
  doc: Doc,
  { nodes }: Entries,
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
function areAllOwn({ nodes }: Entries, found: ReadonlyMap<string, number>): boolean {
  if (found.size !== nodes.length) return false
  let at = 0
  // of several containers at one place the map may hold another one's
  for (const node of found.values()) if (node !== nodes[at++]) return false
  return true
}
