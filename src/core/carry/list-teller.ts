import { Kind } from '../document/kind.ts'
import type { Position } from '../document/line-map.ts'
import { segmentOf } from '../identity/segment.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { joinKey, quoteName } from '../keys/key.ts'
import type { Entries } from './entries.ts'
import type { ListInput } from './context.ts'
import type { MergeContext } from './context.ts'
import { carryProblems } from './problems.ts'

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
    for (const [cls, twins] of this.entries.matching.twins) {
      const side = [MINE, NEW].find(
        (each) => this.entries.matching.unit(each as Side, cls) >= 0,
      ) as Side | undefined
      if (side === undefined || !this.isToldByName(side, cls)) continue
      const first = twins.find((twin) => this.entries.matching.unit(side, twin) >= 0) ?? cls
      if (first === cls) continue
      const { docs, ledger } = this.merge
      const nodes = [
        this.entries.matching.node(side, cls),
        this.entries.matching.node(side, first),
      ] as const
      ledger.problem(carryProblems.duplicateKey(docs[side], nodes, side, this.entries.keyOf(first)))
    }
  }

  private isToldByName(side: Side, cls: number): boolean {
    const kind = this.merge.docs[side].kind(this.entries.matching.node(side, cls))
    const means = this.entries.matching.means(side, this.entries.matching.unit(side, cls))
    return means?.by === 'identity' || kind === Kind.Member
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
    this.merge.record.change(
      { side, kind: 'renamed', was: old },
      this.entries.nodesOf(cls),
      key,
      side === 'vanilla' ? NEW : MINE,
    )
    const means = this.entries.matching.means(MINE, this.entries.matching.unit(MINE, cls))
    if (means?.by === 'identity') {
      for (const path of means.identity.parts) this.merge.ledger.cover(joinKey(key, path.join('/')))
    }
  }
}
