import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Doc } from '../formats/doc.ts'
import { placeInside } from '../identity/place.ts'
import type { Moves } from '../match/order.ts'
import type { PlanContext } from './context.ts'
import type { Decision, Open } from './decision.ts'
import { dropsElsewhere, isOpen, settledBy } from './decision.ts'
import { Entries } from './entries.ts'
import { planFrame, questionFrame } from './frame.ts'
import { listOrder } from './list-order.ts'
import type {
  Choice,
  ElementPlan,
  EntryPlan,
  Fate,
  LeafPlan,
  ListPlan,
  Plan,
  Telling,
  TextPlan,
} from './plan.ts'
import { UnitPlanner } from './unit-parts.ts'

export type { Decision } from './decision.ts'

/** A plan in which decisions are applied, and those that could not be. */
export interface DecidedPlan {
  plan: Plan
  notApplied: { key: string; why: string }[]
  /** By node of old: entries that stand elsewhere now, and were decided to stand nowhere. This plan has them still. */
  elsewhere: ReadonlyMap<number, Decision>
}

/** Why a decision could not be applied, where nothing was to be decided. */
export const NOTHING_ASKED = 'nothing is in question there'

/**
 * Applies decisions to a plan: each conflict at a key that is decided is settled as the decision says, and all else
 * stays as it is. The plan that is given is not changed.
 *
 * @param context the planner of the plan: it plans entries that are moved onto others
 */
export function decide(
  plan: Plan,
  decisions: readonly Decision[],
  context: PlanContext,
): DecidedPlan {
  const decider = new Decider(decisions, context)
  const decided = decider.plan(plan)
  return { plan: decided, notApplied: decider.notApplied(), elsewhere: decider.elsewhere }
}

class Decider {
  private readonly byKey: ReadonlyMap<string, Decision>
  private readonly applied = new Set<string>()
  private readonly refused = new Map<string, string>()
  readonly elsewhere = new Map<number, Decision>()

  constructor(
    private readonly decisions: readonly Decision[],
    private readonly context: PlanContext,
  ) {
    this.byKey = new Map(decisions.map((decision) => [decision.key, decision]))
  }

  notApplied(): DecidedPlan['notApplied'] {
    return this.decisions
      .filter(({ key }) => !this.applied.has(key))
      .map(({ key }) => ({ key, why: this.refused.get(key) ?? NOTHING_ASKED }))
  }

  plan(plan: Plan): Plan {
    switch (plan.do) {
      case 'take':
        return this.taken(plan)
      case 'leaf':
        return this.leaf(plan)
      case 'member':
        return { ...plan, value: this.plan(plan.value) }
      case 'element':
        return this.element(plan)
      case 'list':
        return this.list(plan)
      case 'made':
        return plan
    }
  }

  /** The open conflict among what is told of a node that a decision is for. */
  private asked(told: readonly Telling[]): { open: Open; decision: Decision } | undefined {
    for (const telling of told) {
      if (!isOpen(telling)) continue
      const decision = this.byKey.get(telling.key)
      if (decision !== undefined) return { open: telling, decision }
    }
    return undefined
  }

  private settle(told: readonly Telling[], open: Open, decision: Decision): Telling[] {
    this.applied.add(decision.key)
    const settled = settledBy(decision)
    return told.map((telling) => (telling === open ? { ...telling, settled } : telling))
  }

  private refuse({ key }: Decision, why: string): void {
    this.refused.set(key, why)
  }

  /** What is told of the inside of a node that stands as a whole: a question there changes nothing that is written. */
  private insides(told: readonly Telling[]): readonly Telling[] {
    return told.map((telling) =>
      telling.tell === 'inside' ? { ...telling, plan: this.plan(telling.plan) } : telling,
    )
  }

  private taken(taken: Extract<Plan, { do: 'take' }>): Plan {
    return this.asTaken({ ...taken, told: this.insides(taken.told) })
  }

  private asTaken(plan: Extract<Plan, { do: 'take' }>): Plan {
    const asked = this.asked(plan.told)
    if (asked === undefined) return plan
    const { open, decision } = asked
    const text = this.textOf(decision, MINE, plan.nodes[MINE])
    if (text === undefined && decision.take !== 'vanilla' && decision.take !== 'mine') {
      this.refuse(decision, 'one of the two stands there, or a text as it is in the file')
      return plan
    }
    const told = this.settle(plan.told, open, decision)
    if (decision.take === 'source') return { do: 'made', text: decision.text, told }
    if (text === undefined) return { ...plan, side: decision.take === 'vanilla' ? NEW : MINE, told }
    const { tree } = this.context.docs[MINE]
    const node = plan.nodes[MINE]
    const before = tree.source.slice(tree.start(node), tree.bodyStart(node))
    const after = tree.source.slice(tree.bodyEnd(node), tree.end(node))
    return { do: 'made', text: before + text + after, told }
  }

  /** The text of a decision for a value; undefined where it gives none, or none that can stand there. */
  private textOf(decision: Decision, side: Side, node: number): string | undefined {
    if (decision.take === 'source') return decision.text
    if (decision.take !== 'value') return undefined
    const doc = this.context.docs[side]
    return doc.isValue(node) ? doc.format.encode(doc.tree, node, decision.text) : undefined
  }

  private leaf(plan: LeafPlan): LeafPlan {
    const decided = this.value(plan.value, plan.told, plan.nodes)
    return decided === undefined ? plan : { ...plan, ...decided }
  }

  private value(
    value: Choice,
    told: readonly Telling[],
    nodes: Triple<number>,
  ): { value: Choice; told: readonly Telling[] } | undefined {
    const asked = this.asked(told)
    if (asked === undefined) return undefined
    const { open, decision } = asked
    const chosen = this.choice(decision, value, nodes)
    if (chosen === undefined) return undefined
    return { value: chosen, told: this.settle(told, open, decision) }
  }

  private choice(decision: Decision, value: Choice, nodes: Triple<number>): Choice | undefined {
    switch (decision.take) {
      case 'vanilla':
        return { side: NEW }
      case 'mine':
        return value
      case 'source':
        return { side: MINE, source: decision.text }
      case 'value': {
        const made = this.textOf(decision, MINE, nodes[MINE])
        if (made === undefined) this.refuse(decision, 'this text cannot stand there')
        return made === undefined ? undefined : { side: MINE, made }
      }
      default:
        this.refuse(decision, 'one value stands there')
        return undefined
    }
  }

  private element(plan: ElementPlan): ElementPlan {
    const name = this.asked(plan.told)
    const named =
      name === undefined || (name.decision.take !== 'vanilla' && name.decision.take !== 'mine')
        ? {}
        : {
            name: name.decision.take === 'vanilla' ? NEW : plan.name,
            told: this.settle(plan.told, name.open, name.decision),
          }
    const { attributes } = plan
    return {
      ...plan,
      ...named,
      attributes: typeof attributes === 'object' ? this.list(attributes) : attributes,
      content: this.content(plan.content),
    }
  }

  private content(content: ElementPlan['content']): ElementPlan['content'] {
    if (content.do === 'list') return this.list(content)
    if (content.do === 'text') return this.text(content)
    const asked = this.asked(content.told)
    if (asked === undefined) return content
    const { open, decision } = asked
    if (decision.take !== 'vanilla' && decision.take !== 'mine') {
      this.refuse(decision, 'one of the two stands there')
      return content
    }
    const side = decision.take === 'vanilla' ? NEW : MINE
    return { ...content, side, told: this.settle(content.told, open, decision) }
  }

  private text(plan: TextPlan): TextPlan {
    const decided = this.value(plan.value, plan.told, plan.nodes)
    if (decided === undefined) return plan
    const { side } = decided.value
    const { tree } = this.context.docs[side]
    const isClosed = tree.bodyStart(plan.nodes[side]) === tree.end(plan.nodes[side])
    // a tag that closes itself has neither text nor close tag to take the form of
    const form = isClosed ? undefined : (plan.form ?? { before: side, after: side, close: side })
    return { ...plan, ...decided, form: fittingForm(form, plan, this.context.docs) }
  }

  // Lists

  private list(plan: ListPlan): ListPlan {
    const question = this.asked(plan.told)
    if (question !== undefined && question.open.tell === 'conflict')
      return this.askedList(plan, question.decision, question.open)
    if (plan.entries.length === 0) return plan
    const inner = plan.entries.map((entry) => this.inside(entry))
    const entries = this.withFates(plan, inner)
    const isSame = entries.every((entry, cls) => entry.fate === surely(plan.entries[cls]).fate)
    const ordered = question === undefined ? {} : this.orderedAs(plan, question)
    const moves = ordered.moves ?? plan.moves
    if (isSame && ordered.moves === undefined) return { ...plan, entries, ...ordered }
    const isIn = (cls: number): boolean => surely(entries[cls]).fate !== 'out'
    const { classes } = listOrder(plan.input, plan.matching, moves, isIn)
    const frame = planFrame(this.context.docs, plan.input, classes.length > 0)
    return { ...plan, ...ordered, entries, order: classes, frame }
  }

  private askedList(plan: ListPlan, decision: Decision, open: Open): ListPlan {
    if (decision.take !== 'vanilla' && decision.take !== 'mine') {
      this.refuse(decision, 'one of the two lists stands there')
      return plan
    }
    const side = decision.take === 'vanilla' ? NEW : MINE
    const frame = questionFrame(this.context.docs[side].tree, plan.input, side)
    return { ...plan, frame, told: this.settle(plan.told, open, decision) }
  }

  /** The moves of a list whose order is decided: as if only that side had re-ordered. */
  private orderedAs(
    plan: ListPlan,
    { open, decision }: { open: Open; decision: Decision },
  ): { moves?: Moves; told?: Telling[] } {
    if (decision.take !== 'vanilla' && decision.take !== 'mine') {
      this.refuse(decision, 'one of the two orders stands there')
      return {}
    }
    const told = this.settle(plan.told, open, decision)
    if (decision.take === 'mine') return { told }
    return { told, moves: { ...plan.moves, mineMoved: false, byMine: [] } }
  }

  private inside(whole: EntryPlan): EntryPlan {
    const entry = { ...whole, told: this.insides(whole.told) }
    const { parts } = entry
    if (parts?.entry === undefined) return entry
    return { ...entry, parts: { ...parts, entry: this.plan(parts.entry) } }
  }

  /** The entries of a list whose fates are decided. */
  private withFates(plan: ListPlan, entries: readonly EntryPlan[]): EntryPlan[] {
    const result = [...entries]
    for (const [cls, entry] of entries.entries()) {
      const asked = this.asked(entry.fateTold)
      if (asked === undefined) continue
      const { open, decision } = asked
      if (decision.take === 'onto') this.onto(plan, cls, decision, result)
      else if (open.tell === 'stretch') this.stretch(plan, cls, decision, result)
      else if (dropsElsewhere(plan, cls, open, decision))
        this.elsewhere.set(plan.matching.node(OLD, cls), decision)
      else this.fate(plan, cls, decision, result)
      const decided = surely(result[cls])
      if (this.refused.has(decision.key)) continue
      result[cls] = { ...decided, fateTold: this.settle(entry.fateTold, open, decision) }
    }
    return result
  }

  /** An entry that one side dropped and the other changed. */
  private fate(plan: ListPlan, cls: number, decision: Decision, into: EntryPlan[]): void {
    const entry = surely(into[cls])
    if (decision.take === 'mine') return
    if (decision.take !== 'vanilla') {
      this.refuse(decision, 'the entry stands there or not')
      return
    }
    if (entry.fate === 'merged' && entry.parts !== undefined) {
      const units = triple((side) => plan.matching.unit(side, cls))
      const nodes = new Entries(plan.matching, plan.input.lists, plan.input.where.key).nodesOf(cls)
      const planner = new UnitPlanner(this.context, plan.input.lists)
      into[cls] = { ...entry, parts: planner.dormant(units, nodes, NEW) }
      return
    }
    into[cls] = { ...entry, fate: plan.matching.unit(NEW, cls) >= 0 ? 'vanilla-added' : 'out' }
  }

  /** A stretch that both sides rewrote: what one has, or what both have, vanilla's first. */
  private stretch(plan: ListPlan, cls: number, decision: Decision, into: EntryPlan[]): void {
    const { matching } = plan
    if (decision.take === 'mine') return
    const stretch = surely(matching.stretches.find((each) => each.has(cls)))
    const isIn = (side: Side, each: number): boolean => matching.unit(side, each) >= 0
    const isTwice = [...stretch].some((each) => isIn(NEW, each) && isIn(MINE, each))
    if (decision.take !== 'vanilla' && (decision.take !== 'both' || isTwice)) {
      this.refuse(decision, 'what one of the two has stands there')
      return
    }
    for (const each of stretch) {
      const entry = surely(into[each])
      const fate: Fate = isIn(NEW, each)
        ? 'vanilla-added'
        : decision.take === 'both' && isIn(MINE, each)
          ? 'kept-against-vanilla'
          : 'out'
      into[each] = { ...entry, fate }
    }
  }

  /** The operator's edits of an entry that vanilla dropped go to another one, and the old one is left out. */
  private onto(
    plan: ListPlan,
    cls: number,
    decision: Extract<Decision, { take: 'onto' }>,
    into: EntryPlan[],
  ): void {
    const { matching, input } = plan
    const entries = new Entries(matching, input.lists, input.where.key)
    const target = into.findIndex(
      ({ fate }, each) => fate === 'vanilla-added' && entries.keyOf(each) === decision.to,
    )
    const [from, to] = [surely(into[cls]), into[target]]
    if (from.fate !== 'kept-against-vanilla' || to === undefined) {
      this.refuse(decision, `there is no entry ${decision.to} of vanilla's alone in this list`)
      return
    }
    const units = triple((side) => matching.unit(side, side === NEW ? target : cls))
    const nodes = triple((side) => matching.node(side, side === NEW ? target : cls))
    const place = placeInside(this.context.docs[MINE], nodes[MINE], input.where.place)
    const merged = this.context.node(nodes, { key: decision.to, place })
    const parts = new UnitPlanner(this.context, input.lists).merged(units, merged)
    into[target] = { ...to, fate: 'merged', fateTold: [], whole: undefined, parts }
    into[cls] = { ...from, fate: 'out' }
  }
}

/** The form of a text whose sides all have a text between tags; of others the chosen side's. */
function fittingForm(
  form: TextPlan['form'],
  { nodes, value }: TextPlan,
  docs: Triple<Doc>,
): TextPlan['form'] {
  if (form === undefined) return undefined
  const isClosed = (side: Side): boolean =>
    docs[side].tree.bodyStart(nodes[side]) === docs[side].tree.end(nodes[side])
  const own = (side: Side): Side => (isClosed(side) ? value.side : side)
  return { before: own(form.before), after: own(form.after), close: own(form.close) }
}
