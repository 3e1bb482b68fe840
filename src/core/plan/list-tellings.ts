import { isRepeatable, Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { nodeOf } from '../document/unit-list.ts'
import { surely } from '../document/surely.ts'
import type { Doc } from '../formats/doc.ts'
import { joinKey, quoteName } from '../keys/key.ts'
import type { Changed } from '../match/links.ts'
import { otherSide } from '../match/links.ts'
import type { Matching } from '../match/matching.ts'
import { segmentOf } from '../match/key-segment.ts'
import { carryProblems } from './carry-problems.ts'
import { placeInside } from '../identity/place.ts'
import { addedApart } from './added-apart.ts'
import type { PlanContext } from './context.ts'
import type { Entries } from './entries.ts'
import type { MissingNumber } from './in-step.ts'
import { missingNumber, unevenLists } from './in-step.ts'
import type { EntryPlan, ListInput, Telling } from './plan.ts'
import type { Nodes } from './telling.ts'

/** That the entries of a list have other numbers than before. */
export function numberedAnew(
  { docs }: PlanContext,
  { nodes, where }: ListInput,
  matching: Matching,
): Telling[] {
  const anew = matching.numberedAnew
  if (anew === undefined) return []
  const [doc, node] = [docs[MINE], nodes[MINE]]
  const problem = carryProblems.numberedAnew(doc, node, where.key, anew.counter, anew.isSure)
  return [{ tell: 'loss', problem }]
}

/** What is to be told of a container beside its values: moves, renames, slips in names. */
export class ListTellings {
  constructor(
    private readonly context: PlanContext,
    private readonly input: ListInput,
    private readonly entries: Entries,
  ) {}

  /** Entries that a side moved, and a clash of orders. */
  moves(
    moved: ReadonlyMap<number, 'vanilla' | 'mine' | 'both'>,
    clash: readonly number[],
  ): Telling[] {
    const isLive = ([cls]: readonly [number, unknown]): boolean =>
      !this.entries.matching.hasDormant(cls)
    const told = [...moved].filter(isLive).map(([cls, side]): Telling => {
      const nodes = this.entries.nodesOf(cls)
      const from = side === 'vanilla' ? NEW : MINE
      const key = this.entries.keyOf(cls)
      return { tell: 'change', side, kind: 'moved', key, nodes, from, cls }
    })
    const [first] = clash.filter((cls) => !this.entries.matching.hasDormant(cls))
    if (first === undefined) return told
    const place = this.entryPlace(first)
    return [...told, this.isOrderContent(place) ? this.orderClash(place) : this.orderKept(clash)]
  }

  private isOrderContent(place: string): boolean {
    return this.context.options.ordered.has(place)
  }

  /** The place of an entry of this container: where config keys are looked up. */
  private entryPlace(cls: number): string {
    const node = this.entries.nodesOf(cls)[MINE]
    return placeInside(this.context.docs[MINE], node, this.input.where.place)
  }

  private orderKept(clash: readonly number[]): Telling {
    const node = this.entries.nodesOf(surely(clash[0]))[NEW]
    const keys = clash.map((cls) => this.entries.keyOf(cls))
    return { tell: 'loss', problem: carryProblems.orderKept(this.context.docs[NEW], node, keys) }
  }

  /** Both re-ordered where order matters: one conflict, with the three orders as its values. */
  private orderClash(place: string): Telling {
    const { nodes, where } = this.input
    const orders = triple((side) =>
      this.entries.matching.classOf[side]
        .filter((cls) => !this.entries.isComment(cls))
        .map((cls) => segmentOf(this.entries.matching, cls, side))
        .join(', '),
    )
    const isArray = this.input.kind === Kind.Array
    const key = isArray
      ? where.key
      : joinKey(where.key, quoteName(place.slice(place.lastIndexOf('/') + 1)))
    return { tell: 'order', key, nodes, orders }
  }

  /** A name that mine writes with other capitals than vanilla. */
  capitals(cls: number): Telling[] {
    const { docs } = this.context
    if (!docs[MINE].format.foldsCase) return []
    const [, fresh, mine] = this.entries.nodesOf(cls)
    const [inNew, inMine] = [docs[NEW].name(fresh), docs[MINE].name(mine)]
    if (inNew === inMine || inNew.toLowerCase() !== inMine.toLowerCase()) return []
    return [{ tell: 'loss', problem: carryProblems.otherCase(docs[MINE], mine, inNew) }]
  }

  /** A key that both changed in the same way by chance, since its number is another entry's now. */
  otherNumber(cls: number): Telling[] {
    const { shiftedAlike } = this.entries.matching
    if (!shiftedAlike.has(cls)) return []
    const now = shiftedAlike.get(cls)
    const [was, is] = [this.entries.keyOf(cls), now === undefined ? now : this.entries.keyOf(now)]
    const node = this.entries.nodesOf(cls)[MINE]
    const problem = carryProblems.alikeByChance(this.context.docs[MINE], node, was, is)
    return [{ tell: 'problem', problem }]
  }

  /** Columns of a table that were in step in each of the three files, and are not in the result. */
  outOfStep(plans: readonly EntryPlan[]): Telling[] {
    const { docs } = this.context
    const lists = unevenLists(docs, this.entries, plans)
    // what is asked at is not decided yet
    const number =
      this.entries.matching.shifted.size > 0 ? undefined : missingNumber(docs, this.entries, plans)
    const [doc, node] = [docs[MINE], this.input.nodes[MINE]]
    const { kind, where } = this.input
    const keyOf = (name: string): string =>
      joinKey(where.key, `${kind === Kind.Attribute ? '@' : ''}${quoteName(name)}`)
    const keys = ({ lacks, has }: MissingNumber): MissingNumber => ({
      lacks: keyOf(lacks),
      has: keyOf(has),
    })
    const problems = [
      ...(lists === undefined ? [] : [carryProblems.unevenLists(doc, node, lists)]),
      ...(number === undefined ? [] : [carryProblems.missingNumber(doc, node, keys(number))]),
    ]
    return problems.map((problem): Telling => ({ tell: 'problem', problem }))
  }

  /**
   * Entries that a side added to others of their kind, of which the other side has none there now: they may stand
   * elsewhere, or have another name. One note for each kind; one for all where the other side has none at all of what
   * they were added to.
   */
  leftBehind(isAdded: (side: Side, cls: number) => boolean): Telling[] {
    const { matching } = this.entries
    return ([MINE, NEW] as const).flatMap((side) => {
      const isLive = (cls: number): boolean => matching.dormantEntry(side, cls) === undefined
      const added = matching.classOf[side].filter((cls) => isAdded(side, cls) && isLive(cls))
      return this.strangers(side, added).map((cls): Telling => {
        const [doc, key] = [this.context.docs[side], this.entries.keyOf(cls)]
        const problem = carryProblems.leftBehind(doc, matching.node(side, cls), key, side)
        return { tell: 'problem', problem }
      })
    })
  }

  /** Of what a side added that of which the other side has none of the kind: the first of each kind that old has, or the first of all. */
  private strangers(side: Changed, added: readonly number[]): number[] {
    if (added.length === 0) return []
    const other = otherSide(side)
    const [before, there] = [this.sortsOf(OLD), this.sortsOf(other)]
    const strange = new Map<string | undefined, number>()
    for (const cls of added) {
      const sort = sortOf(this.context.docs[side], this.entries.matching.node(side, cls))
      // what has no kind is of none that the other side has
      const isThere = sort !== undefined && there.has(sort)
      if (!isThere && !strange.has(sort)) strange.set(sort, cls)
    }
    const ofOld = [...strange].filter(([sort]) => sort !== undefined && before.has(sort))
    if (ofOld.length > 0) return ofOld.map(([, cls]) => cls)
    const isAmongNone = this.input.kind !== Kind.Attribute && this.areAllGone(other)
    return isAmongNone ? [...strange.values()].slice(0, 1) : []
  }

  private sortsOf(side: Side): ReadonlySet<string | undefined> {
    const { matching, lists } = this.entries
    const nodes = (lists[side]?.nodes ?? []).filter((_, unit) => !matching.isWords(side, unit))
    return new Set(nodes.map((node) => sortOf(this.context.docs[side], node)))
  }

  /** Whether a side has entries in a list and none of those that old has there. */
  private areAllGone(side: Side): boolean {
    const { matching } = this.entries
    const entries = (of: Side): number[] =>
      matching.classOf[of].filter(
        (cls, unit) => !this.entries.isComment(cls) && !matching.isWords(of, unit),
      )
    const [old, now] = [entries(OLD), entries(side)]
    return old.length > 0 && now.length > 0 && old.every((cls) => matching.unit(side, cls) < 0)
  }

  /** Entries that both sides added, at different places: each stands once, and may be two. */
  addedApart(): Telling[] {
    return addedApart(this.entries).map((cls): Telling => {
      const [doc, key] = [this.context.docs[MINE], this.entries.keyOf(cls)]
      const problem = carryProblems.addedApart(doc, this.entries.matching.node(MINE, cls), key)
      return { tell: 'problem', problem }
    })
  }

  /** A container that one side put around what the list held. */
  wrapped(cls: number): Telling[] {
    const { docs, options } = this.context
    const key = this.entries.keyOf(cls)
    const wrapping = options.wrapped.get(key)
    if (wrapping === undefined) return []
    const { by, was } = wrapping
    const from = by === 'vanilla' ? NEW : MINE
    const [, fresh, mine] = this.entries.nodesOf(cls)
    // the others were given it, and have none of their own
    const nodes: Nodes = [-1, by === 'mine' ? -1 : fresh, by === 'vanilla' ? -1 : mine]
    const moved: Telling = { tell: 'change', side: by, kind: 'moved', key, was, nodes, from, cls }
    if (by === 'both') return [moved]
    const problem = carryProblems.wrapped(docs[from], nodes[from], key, from)
    return [moved, { tell: 'problem', problem }]
  }

  /** Two entries of one identity, or two members of one name, in one document: a slip, most likely. */
  duplicates(): Telling[] {
    const { matching } = this.entries
    const found: Telling[] = []
    if (matching.isAllNamed) return found
    const told = new Set<number>()
    for (const side of [MINE, NEW] as const) {
      const first = new Map<string, number>()
      for (const [unit, cls] of matching.classOf[side].entries()) {
        const id = matching.name(side, unit)
        if (id === undefined || !this.isToldByName(side, unit)) continue
        const known = first.get(id)
        if (known === undefined) first.set(id, cls)
        else if (!told.has(cls)) found.push(this.duplicate(side, cls, known))
        if (known !== undefined) told.add(cls)
      }
    }
    return found
  }

  private duplicate(side: Side, cls: number, first: number): Telling {
    const { docs } = this.context
    const { matching } = this.entries
    const nodes = [matching.node(side, cls), matching.node(side, first)] as const
    const key = this.entries.keyOf(first)
    return { tell: 'problem', problem: carryProblems.duplicateKey(docs[side], nodes, side, key) }
  }

  private isToldByName(side: Side, unit: number): boolean {
    const { matching, lists } = this.entries
    const kind = this.context.docs[side].kind(nodeOf(lists[side], unit))
    return matching.means(side, unit)?.by === 'identity' || kind === Kind.Member
  }

  /** An entry that one side gave another name, or both the same one. */
  rename(cls: number): Telling[] {
    const { matching } = this.entries
    const [old, fresh, mine] = triple((side) =>
      matching.unit(side, cls) < 0
        ? undefined
        : joinKey(this.input.where.key, segmentOf(matching, cls, side)),
    )
    if (old === undefined || (fresh !== old && mine !== old && fresh !== mine)) return []
    const side = fresh === mine ? 'both' : mine === old ? 'vanilla' : 'mine'
    const key = this.entries.keyOf(cls)
    const from = side === 'vanilla' ? NEW : MINE
    const nodes = this.entries.nodesOf(cls)
    const doc = this.context.docs[from]
    const means = matching.means(MINE, matching.unit(MINE, cls))
    const paths = means?.by === 'identity' ? means.identity.parts : []
    const covers = paths.map((path) => joinKey(key, path.join('/')))
    return [
      { tell: 'change', side, kind: 'renamed', was: old, key, nodes, from, cls, covers },
      { tell: 'problem', problem: carryProblems.takenForOne(doc, nodes[from], old, key, from) },
    ]
  }
}

/** What an entry has in common with others of its kind; undefined for what its name alone tells. */
function sortOf(doc: Doc, node: number): string | undefined {
  const kind = doc.kind(node)
  if (isRepeatable(kind)) return `${kind}:${doc.foldedName(node)}`
  return kind === Kind.Object || kind === Kind.Array ? `${kind}` : undefined
}
