import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { matchUnits } from '../match/match-units.ts'
import type { Matching } from '../match/matching.ts'
import type { Moves } from '../match/order.ts'
import { movesOf } from '../match/order.ts'
import { placeInside } from '../identity/place.ts'
import { scopeOf } from '../match/tell-apart.ts'
import type { PlanContext } from './context.ts'
import { Entries } from './entries.ts'
import type { EntryFate, EntryPlan, ListInput, ListPlan, Plan, Telling } from './plan.ts'
import { EntryFates } from './entry-fates.ts'
import { planFrame, questionFrame } from './frame.ts'
import { listOrder } from './list-order.ts'
import { ListTellings, numberedAnew } from './list-tellings.ts'
import type { Nodes } from './telling.ts'
import { NOTHING_TOLD } from './plan.ts'
import { UnitPlanner } from './unit-parts.ts'

/** Plans one container: which entries the result has, in which order, and what becomes of each. */
export function planList(context: PlanContext, given: ListInput): ListPlan {
  const { input, matching, moves } = matched(context, given)
  context.wrappings.seeList(input, matching)
  const plan = matching.isQuestion
    ? askedList(context, input, matching, moves)
    : new ListPlanner(context, input, matching, moves).plan()
  const anew = numberedAnew(context, input, matching)
  return anew.length === 0 ? plan : { ...plan, told: [...plan.told, ...anew] }
}

/** Which unit is which, and the lists of units for which that was found out. */
interface Matched {
  input: ListInput
  matching: Matching
  moves: Moves
}

function matched({ docs, options, values }: PlanContext, given: ListInput): Matched {
  const { where, kind } = given
  const scope = scopeOf(kind, where.place, docs[MINE].format.hasOneRoot, options.identities)
  const match = (lists: ListInput['lists'], apart?: ListInput['apart']): Matching =>
    matchUnits({ docs, lists, apart, dormant: given.dormant }, scope, values)
  const matching = match(given.lists, given.apart)
  const moves = movesOf(matching)
  // what moved past a run is told of each entry, and what both moved is proven with all of them
  const isMoved = movesRuns(matching, moves) || (moves.vanillaMoved && moves.mineMoved)
  const apart = isMoved ? given.apart?.() : undefined
  if (apart === undefined) return { input: given, matching, moves }
  const each = match(apart)
  return { input: { ...given, lists: apart }, matching: each, moves: movesOf(each) }
}

/** The whole list is one question: it stands as mine has it. */
function askedList(
  { docs }: PlanContext,
  input: ListInput,
  matching: Matching,
  moves: Moves,
): ListPlan {
  const { nodes, where } = input
  const kind = nodes[OLD] < 0 ? 'two-new' : 'two-values'
  return {
    do: 'list',
    input,
    matching,
    moves,
    order: [],
    entries: [],
    frame: questionFrame(docs[MINE].tree, input),
    told: [{ tell: 'conflict', kind, key: where.key, nodes }],
  }
}

/** An entry that is the same in all three documents: nothing is told of it. */
const UNTOUCHED: EntryPlan = {
  fate: 'merged',
  fateTold: NOTHING_TOLD,
  told: NOTHING_TOLD,
  whole: MINE,
  parts: undefined,
  isOneRow: false,
}

class ListPlanner {
  private readonly entries: Entries
  private readonly tellings: ListTellings
  private readonly units: UnitPlanner

  constructor(
    private readonly context: PlanContext,
    private readonly input: ListInput,
    private readonly matching: Matching,
    private readonly moves: Moves,
  ) {
    this.entries = new Entries(matching, input.lists, input.where.key)
    this.tellings = new ListTellings(context, input, this.entries)
    this.units = new UnitPlanner(context, input.lists)
  }

  plan(): ListPlan {
    const { context, input, matching, moves } = this
    const fates = new EntryFates(context, this.entries, input.dormant).all()
    const order = listOrder(input, matching, moves, (cls) => surely(fates[cls]).fate !== 'out')
    const told = [...this.tellings.duplicates(), ...this.leftBehind(fates)]
    if (this.isOrdered()) told.push(...this.tellings.moves(order.moved, order.clash))
    told.push(...this.tellings.addedApart())
    const entries = fates.map((fate, cls) => this.entry(cls, fate))
    told.push(...this.tellings.outOfStep(entries))
    return {
      do: 'list',
      input,
      matching,
      moves,
      order: order.classes,
      entries,
      frame: planFrame(context.docs, input, order.classes.length > 0),
      told,
    }
  }

  private leftBehind(fates: readonly EntryFate[]): Telling[] {
    const isAdded = (side: Side, cls: number): boolean =>
      fates[cls]?.fate === (side === MINE ? 'mine-added' : 'vanilla-added')
    return this.tellings.leftBehind(isAdded)
  }

  /** Whether the order of this container's entries is content: members and attributes have none. */
  private isOrdered(): boolean {
    const { kind } = this.input
    return (
      kind === Kind.Element ||
      kind === Kind.Array ||
      kind === Kind.Section ||
      kind === Kind.Document
    )
  }

  private entry(cls: number, { fate, told: fateTold, stands }: EntryFate): EntryPlan {
    if (fate !== 'merged') return { ...UNTOUCHED, fate, fateTold, whole: undefined }
    const units = triple((side) => this.matching.unit(side, cls))
    if (stands !== undefined) return this.dormantEntry(units, cls, { stands, fateTold })
    if (this.entries.isComment(cls)) {
      const isSame = this.units.text(NEW, units[NEW]) === this.units.text(MINE, units[MINE])
      if (isSame) return UNTOUCHED
      return { ...UNTOUCHED, whole: undefined, parts: this.units.comment(units) }
    }
    return this.merged(cls, units)
  }

  /** An entry that stands in comments in some document. */
  private dormantEntry(
    units: Triple<number>,
    cls: number,
    { stands, fateTold }: { stands: Side; fateTold: readonly Telling[] },
  ): EntryPlan {
    const [old, fresh, mine] = triple((side) => this.units.text(side, units[side]))
    if (old === mine && fresh === mine) return { ...UNTOUCHED, fateTold }
    const parts = this.units.dormant(units, this.entries.nodesOf(cls), stands)
    return { ...UNTOUCHED, fateTold, whole: undefined, parts }
  }

  private merged(cls: number, units: Triple<number>): EntryPlan {
    const nodes = this.entries.nodesOf(cls)
    const named: Telling[] = []
    if (this.matching.renamed.has(cls)) named.push(...this.tellings.rename(cls))
    named.push(...this.tellings.capitals(cls), ...this.tellings.otherNumber(cls))
    named.push(...this.tellings.wrapped(cls))
    const texts = triple((side) => this.units.text(side, units[side]))
    const [old, fresh, mine] = texts
    const isSame = old === fresh && old === mine
    const inParts =
      this.context.tied.touches(nodes) ||
      this.matching.shifted.has(cls) ||
      (this.units.isBesideText && !isSame)
    const whole = inParts ? undefined : wholeSide(texts)
    if (whole !== undefined && isSame)
      return named.length === 0 ? UNTOUCHED : { ...UNTOUCHED, told: named }
    const { plan, told, isOneRow } = this.mergedEntry(cls, nodes)
    if (whole === undefined) {
      const parts = this.units.merged(units, plan)
      return { ...UNTOUCHED, told: [...named, ...told], whole, parts, isOneRow }
    }
    const all: Telling[] = [...named, ...told, { tell: 'inside', plan }]
    return { ...UNTOUCHED, told: all, whole, isOneRow }
  }

  private mergedEntry(
    cls: number,
    nodes: Nodes,
  ): { plan: Plan; told: readonly Telling[]; isOneRow: boolean } {
    const { docs, options } = this.context
    const inside = (three: Nodes): Plan => {
      const place = placeInside(this.context.docs[MINE], three[MINE], this.input.where.place)
      return this.context.node(three, { key: this.entries.keyOf(cls), place })
    }
    if (this.matching.shifted.has(cls)) {
      const now = this.matching.shifted.get(cls)
      const perhaps = now === undefined ? undefined : this.entries.keyOf(now)
      const key = this.entries.keyOf(cls)
      const asked: Telling = { tell: 'conflict', kind: 'two-values', key, nodes, perhaps }
      const plan: Plan = { do: 'take', side: MINE, nodes, told: [asked] }
      return { plan, told: NOTHING_TOLD, isOneRow: false }
    }
    if (nodes[OLD] >= 0) return { plan: inside(nodes), told: NOTHING_TOLD, isOneRow: false }
    const origin = options.moved.originOf(docs[NEW], nodes[NEW])
    if (origin >= 0) {
      const plan = inside([origin, nodes[NEW], nodes[MINE]])
      return { plan, told: NOTHING_TOLD, isOneRow: false }
    }
    // what both added is one row, and what differs in it a question of its own
    const plan = inside(nodes)
    const key = this.entries.keyOf(cls)
    const added: Telling = {
      tell: 'change',
      side: 'both',
      kind: 'added',
      key,
      nodes,
      from: MINE,
      cls,
    }
    return { plan, told: isAskedAt(plan, key) ? NOTHING_TOLD : [added], isOneRow: true }
  }
}

/** Whether what a node itself is, and not something inside, is a question. */
function isAskedAt(plan: Plan, key: string): boolean {
  if (plan.do === 'member') return isAskedAt(plan.value, key)
  const told =
    plan.do === 'element' && plan.content.do !== 'list'
      ? [...plan.told, ...plan.content.told]
      : plan.told
  return told.some((telling) => telling.tell === 'conflict' && telling.key === key)
}

/** Whose whole unit stands, where one of them can. */
function wholeSide([old, fresh, mine]: Triple<string | undefined>): Side | undefined {
  if (fresh === mine) return MINE
  if (old === undefined) return undefined
  if (old === mine) return NEW
  return old === fresh ? MINE : undefined
}

/**
 * Whether a run of entries is among what a side moved: entries that were renamed may have been moved past it.
 * Then it may be that fewer entries were moved than stand in the run.
 */
function movesRuns(matching: Matching, { byVanilla, byMine }: Moves): boolean {
  const isRun = (cls: number): boolean =>
    matching.lists[OLD]?.runOf(matching.unit(OLD, cls)) !== undefined
  return byVanilla.some(isRun) || byMine.some(isRun)
}
