import { Kind } from '../document/kind.ts'
import type { Position } from '../document/line-map.ts'
import { segmentOf } from '../match/key-segment.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { nodeOf } from '../document/unit-list.ts'
import { joinKey, quoteName } from '../keys/key.ts'
import type { Entries } from './entries.ts'
import type { ListInput } from './context.ts'
import type { MergeContext } from './context.ts'
import { carryProblems } from './carry-problems.ts'

/** Tells the ledger what is to be said of a container beside its values: moves, renames, slips in names. */
export class ListTeller {
  constructor(
    private readonly merge: MergeContext,
    private readonly input: ListInput,
    private readonly entries: Entries,
  ) {}

  /** Entries that a side moved, and a clash of orders. */
  moves(moved: ReadonlyMap<number, 'vanilla' | 'mine' | 'both'>, clash: readonly number[]): void {
    for (const [cls, side] of moved) {
      const nodes = this.entries.nodesOf(cls)
      this.merge.record.change(
        { side, kind: 'moved' },
        nodes,
        this.entries.keyOf(cls),
        side === 'vanilla' ? NEW : MINE,
      )
    }
    if (clash.length === 0 || this.merge.writer.isMuted) return
    const place = this.entryPlace(clash[0] ?? -1)
    if (this.merge.options.ordered.has(place)) {
      this.tellOrderClash(place)
      return
    }
    const node = this.entries.nodesOf(clash[0] ?? -1)[NEW]
    const doc = this.merge.docs[NEW]
    this.merge.ledger.problem(
      carryProblems.orderKept(
        doc,
        node,
        clash.map((cls) => this.entries.keyOf(cls)),
      ),
    )
  }

  /** The place of an entry of this container: where config keys are looked up. */
  private entryPlace(cls: number): string {
    const node = this.entries.nodesOf(cls)[MINE]
    return this.merge.placeInside(MINE, node, this.input.where.place)
  }

  /** Both re-ordered where order matters: one conflict, with the three orders as its values. */
  private tellOrderClash(place: string): void {
    const { docs, ledger } = this.merge
    const { nodes, where } = this.input
    const orders = triple((side) =>
      this.entries.matching.classOf[side]
        .filter((cls) => !this.entries.isComment(cls))
        .map((cls) => segmentOf(this.entries.matching, cls, side))
        .join(', '),
    )
    const [old, fresh, mine] = orders
    // where both re-ordered, all three have the container
    const at = (side: Side): Position => docs[side].lines.at(docs[side].tree.start(nodes[side]))
    const isArray = this.input.kind === Kind.Array
    const key = isArray
      ? where.key
      : joinKey(where.key, quoteName(place.slice(place.lastIndexOf('/') + 1)))
    ledger.conflict(
      {
        key,
        kind: 'order',
        old,
        new: fresh,
        mine,
        result: mine,
        at: { old: at(OLD), new: at(NEW), mine: at(MINE) },
      },
      orders,
    )
  }

  /** A name that mine writes with other capitals than vanilla. */
  capitals(cls: number): void {
    const { docs, ledger, writer } = this.merge
    if (!docs[MINE].format.foldsCase || writer.isMuted) return
    const [, fresh, mine] = this.entries.nodesOf(cls)
    const [inNew, inMine] = [docs[NEW].name(fresh), docs[MINE].name(mine)]
    if (inNew !== inMine && inNew.toLowerCase() === inMine.toLowerCase()) {
      ledger.problem(carryProblems.otherCase(docs[MINE], mine, inNew))
    }
  }

  /** Two entries of one identity, or two members of one name, in one document: a slip, most likely. */
  duplicates(): void {
    const { matching } = this.entries
    if (matching.isAllNamed) return
    const told = new Set<number>()
    for (const side of [MINE, NEW] as const) {
      const first = new Map<string, number>()
      for (const [unit, cls] of matching.classOf[side].entries()) {
        const id = matching.name(side, unit)
        if (id === undefined || !this.isToldByName(side, unit)) continue
        const known = first.get(id)
        if (known === undefined) first.set(id, cls)
        else if (!told.has(cls)) this.duplicate(side, cls, known)
        if (known !== undefined) told.add(cls)
      }
    }
  }

  private duplicate(side: Side, cls: number, first: number): void {
    const { docs, ledger } = this.merge
    const { matching } = this.entries
    const nodes = [matching.node(side, cls), matching.node(side, first)] as const
    ledger.problem(carryProblems.duplicateKey(docs[side], nodes, side, this.entries.keyOf(first)))
  }

  private isToldByName(side: Side, unit: number): boolean {
    const { matching, lists } = this.entries
    const kind = this.merge.docs[side].kind(nodeOf(lists[side], unit))
    return matching.means(side, unit)?.by === 'identity' || kind === Kind.Member
  }

  rename(cls: number): void {
    const keys = triple((side) => {
      const segment =
        this.entries.matching.unit(side, cls) < 0
          ? undefined
          : segmentOf(this.entries.matching, cls, side)
      return segment === undefined ? undefined : joinKey(this.input.where.key, segment)
    })
    const [old, fresh, mine] = keys
    if (old === undefined || (fresh !== old && mine !== old && fresh !== mine)) return
    const side = fresh === mine ? 'both' : mine === old ? 'vanilla' : 'mine'
    const key = this.entries.keyOf(cls)
    const by = side === 'vanilla' ? NEW : MINE
    this.merge.record.change(
      { side, kind: 'renamed', was: old },
      this.entries.nodesOf(cls),
      key,
      by,
    )
    this.merge.ledger.problem(
      carryProblems.takenForOne(this.merge.docs[by], this.entries.nodesOf(cls)[by], old, key, by),
    )
    const means = this.entries.matching.means(MINE, this.entries.matching.unit(MINE, cls))
    if (means?.by === 'identity') {
      for (const path of means.identity.parts) this.merge.ledger.cover(joinKey(key, path.join('/')))
    }
  }
}
