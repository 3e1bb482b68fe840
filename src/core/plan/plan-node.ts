import { Kind } from '../document/kind.ts'
import { pickSide } from '../document/pick.ts'
import type { Span } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { EntryRun, UnitList } from '../document/unit-list.ts'
import { contentUnits } from '../document/unit-list.ts'
import { canonical, sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import { isBelow } from '../keys/key.ts'
import { ValueCarry } from '../match/carry-values.ts'
import { dormantEntries } from '../match/dormant.ts'
import { commentsOfBoth } from './comments.ts'
import type { PlanContext, PlanOptions, ValueChoice } from './context.ts'
import { mergeListValue } from './list-value.ts'
import { OneSided } from './one-sided.ts'
import type { ContentLists, Plan, TakePlan, Telling, Where } from './plan.ts'
import { planElement } from './plan-element.ts'
import { planList } from './plan-list.ts'
import { quotedInLead, quotedInside } from './quoted-comments.ts'
import { UntouchedRuns } from './same/untouched-runs.ts'
import type { ChangeSide, ConflictKind, Nodes } from './telling.ts'
import { NOTHING_TOLD } from './plan.ts'
import { TiedKeys } from './tied-keys.ts'
import { valueStart } from './value-start.ts'
import { Wrappings } from './wrappings.ts'

/**
 * Decides the three-way merge of one document. Where two of three slices are equal the third is taken;
 * else it descends; a leaf that both changed is a conflict, and mine stands.
 */
export class Planner implements PlanContext {
  readonly tied: TiedKeys
  readonly values: ValueCarry
  readonly wrappings: Wrappings
  private readonly oneSided: OneSided
  private readonly untouched: UntouchedRuns | undefined
  /** Comments that new and mine both brought; found when they are first asked for. */
  private ofBoth: ReadonlySet<string> | undefined

  constructor(
    readonly docs: Triple<Doc>,
    readonly options: PlanOptions,
  ) {
    this.tied = new TiedKeys(docs, options.together)
    this.values = new ValueCarry(options.identities)
    this.wrappings = new Wrappings(docs, options.identities)
    this.oneSided = new OneSided(this, options.thresholds.oneSided)
    // where order matters a clash is told with all entries in their order
    if (options.ordered.size === 0)
      this.untouched = new UntouchedRuns(docs, options.identities, options.thresholds.untouched)
  }

  areBroughtByBoth(comments: readonly number[]): boolean {
    const ofBoth = (this.ofBoth ??= commentsOfBoth(this.docs))
    return comments.every((comment) => {
      const text = this.docs[NEW].commentText(comment)
      return ofBoth.has(text) && !this.options.apart.has(text)
    })
  }

  /** Plans the documents as a whole. @param present which of them there are: a file that both brought has no old */
  whole(present: Triple<boolean>): Plan {
    const nodes = triple((side) => (present[side] ? 0 : -1))
    return this.node(nodes, { key: '', place: '' })
  }

  slice(side: Side, nodes: Nodes): string | undefined {
    const node = nodes[side]
    return node < 0 ? undefined : this.docs[side].slice(node)
  }

  node(nodes: Nodes, where: Where): Plan {
    const tied = this.tied.keysOf(nodes)
    if (tied !== undefined) {
      const kind = nodes[OLD] < 0 ? 'two-new' : 'two-values'
      tied.push(where.key)
      return take(MINE, nodes, [{ tell: 'conflict', kind, key: where.key, nodes, tied }])
    }
    if (this.tied.isAround(nodes) || this.isAroundWrapped(where)) return this.inside(nodes, where)
    const [old, fresh, mine] = triple((side) => this.slice(side, nodes))
    if (fresh === mine) {
      if (old === mine) return take(MINE, nodes)
      return take(MINE, nodes, [{ tell: 'inside', plan: this.inside(nodes, where) }])
    }
    if (old !== undefined && old === mine)
      return take(NEW, nodes, this.oneSided.tellings(NEW, nodes, where))
    if (old !== undefined && old === fresh)
      return take(MINE, nodes, this.oneSided.tellings(MINE, nodes, where))
    return this.inside(nodes, where)
  }

  /** Whether there is a container inside that only some documents had: it is told of, whatever else is equal. */
  private isAroundWrapped({ key }: Where): boolean {
    for (const { was } of this.options.wrapped.values())
      if (key === '' || was === key || isBelow(was, key)) return true
    return false
  }

  inside(nodes: Nodes, where: Where): Plan {
    const [old, fresh, mine] = nodes
    const kind = this.docs[MINE].kind(mine)
    if (this.docs[NEW].kind(fresh) !== kind) return this.shape(nodes, where)
    if (old >= 0 && this.docs[OLD].kind(old) !== kind) return this.reshaped(nodes, where)
    return this.alike(kind, nodes, where)
  }

  /** A value here, a list or an entry there. */
  private shape(nodes: Nodes, where: Where): Plan {
    this.wrappings.seeValue(nodes, where)
    const same = (a: Side, b: Side): boolean =>
      sameContent(this.docs[a], nodes[a], this.docs[b], nodes[b])
    const lost = (side: Side): Telling[] => quotedInside(this.docs, nodes, side)
    if (nodes[OLD] >= 0 && same(OLD, MINE))
      return take(NEW, nodes, [changed('vanilla', nodes, where, NEW), ...lost(MINE)])
    if (nodes[OLD] >= 0 && same(OLD, NEW))
      return take(MINE, nodes, [changed('mine', nodes, where, MINE), ...lost(NEW)])
    return take(MINE, nodes, [conflict('shape', nodes, where)])
  }

  /**
   * New and mine are of one kind that old was not: what they hold is new in both. Of lists of plain values none is
   * half the one and half the other, nor of objects that have no member in common.
   */
  private reshaped(nodes: Nodes, where: Where): Plan {
    this.wrappings.seeValue(nodes, where)
    const [, fresh, mine] = nodes
    if (sameContent(this.docs[NEW], fresh, this.docs[MINE], mine))
      return take(MINE, nodes, [changed('both', nodes, where, MINE)])
    const kind = this.docs[MINE].kind(mine)
    const areValues =
      kind === Kind.Scalar ||
      (kind === Kind.Array && (this.holdsPlain(NEW, fresh) || this.holdsPlain(MINE, mine))) ||
      (kind === Kind.Object && !this.haveNamesInCommon(fresh, mine))
    if (areValues) return take(MINE, nodes, [conflict('two-values', nodes, where)])
    return this.alike(kind, [-1, fresh, mine], where)
  }

  private haveNamesInCommon(fresh: number, mine: number): boolean {
    const names = (side: Side, node: number): string[] => {
      const doc = this.docs[side]
      return doc.children(node).map((child) => doc.name(child))
    }
    const inNew = new Set(names(NEW, fresh))
    return names(MINE, mine).some((name) => name !== '' && inNew.has(name))
  }

  private holdsPlain(side: Side, node: number): boolean {
    const doc = this.docs[side]
    return doc.children(node).some((child) => doc.kind(child) === Kind.Scalar)
  }

  private alike(kind: Kind, nodes: Nodes, where: Where): Plan {
    if (kind !== Kind.Member) this.tied.enter(nodes, where.place)
    switch (kind) {
      case Kind.Element:
        return planElement(this, nodes, where)
      case Kind.Member:
        return this.member(nodes, where)
      case Kind.Document:
      case Kind.Section:
      case Kind.Object:
      case Kind.Array:
        return this.container(nodes, where)
      default:
        return this.leaf(nodes, where)
    }
  }

  // Leaves

  private leaf(nodes: Nodes, where: Where): Plan {
    const { docs } = this
    const starts = triple((side) => (nodes[side] < 0 ? 0 : valueStart(docs[side], nodes[side])))
    const { choice, told } = this.value(
      triple((side) => (nodes[side] < 0 ? undefined : canonical(docs[side], nodes[side]))),
      triple((side) =>
        nodes[side] < 0
          ? ''
          : docs[side].tree.source.slice(starts[side], docs[side].tree.end(nodes[side])),
      ),
      nodes,
      where,
    )
    return { do: 'leaf', nodes, lead: this.leadOf(nodes, starts), value: choice, told }
  }

  /** Whose text stands from a node's start up to an offset in it: name and form, chosen three-way. */
  private leadOf(nodes: Nodes, ends: Triple<number>): Side {
    const leads = triple((side) => {
      const { tree } = this.docs[side]
      return nodes[side] < 0 ? undefined : tree.source.slice(tree.start(nodes[side]), ends[side])
    })
    return pickSide(leads) ?? MINE
  }

  /** Where all are equal by value, their form is chosen like any other. */
  value(
    values: Triple<string | undefined>,
    raw: Triple<string>,
    nodes: Nodes,
    where: Where,
  ): ValueChoice {
    const [old, fresh, mine] = values
    if (fresh === mine) {
      const side = old === mine && raw[OLD] === raw[MINE] ? NEW : MINE
      if (old === mine) return { choice: { side }, told: NOTHING_TOLD }
      const kind = old === undefined ? 'added' : 'changed'
      const { key } = where
      return {
        choice: { side },
        told: [{ tell: 'change', side: 'both', kind, key, nodes, from: MINE }],
      }
    }
    if (old !== undefined && old === mine)
      return { choice: { side: NEW }, told: [changed('vanilla', nodes, where, NEW)] }
    if (old !== undefined && old === fresh)
      return { choice: { side: MINE }, told: [changed('mine', nodes, where, MINE)] }
    const separator = this.options.lists.get(where.place)
    const merged = separator === undefined ? undefined : this.listValue(nodes, where.key, separator)
    if (merged !== undefined) return merged
    const kind = old === undefined ? 'two-new' : 'two-values'
    return { choice: { side: MINE }, told: [conflict(kind, nodes, where)] }
  }

  /** Both changed a value that holds a list: it is merged item by item. */
  private listValue(nodes: Nodes, key: string, separator: string): ValueChoice | undefined {
    const bodyOf = (side: Side): string | null =>
      nodes[side] < 0 ? null : this.docs[side].tree.body(nodes[side]).trim()
    const values = triple(bodyOf)
    const made = mergeListValue(
      triple((side) => values[side] ?? ''),
      separator,
    )
    if (made === undefined) return undefined
    const told: Telling = {
      tell: 'values',
      side: 'both',
      kind: 'changed',
      key,
      values,
      result: made,
    }
    return { choice: { side: MINE, made }, told: [told] }
  }

  // Containers

  private member(nodes: Nodes, where: Where): Plan {
    const values = triple((side) =>
      nodes[side] < 0 ? -1 : this.docs[side].memberValue(nodes[side]),
    )
    const starts = triple((side) =>
      nodes[side] < 0 ? 0 : this.docs[side].tree.start(values[side]),
    )
    const lead = this.leadOf(nodes, starts)
    const lost = lead === NEW ? NOTHING_TOLD : quotedInLead(this.docs, nodes)
    return { do: 'member', nodes, lead, value: this.node(values, where), lost }
  }

  private container(nodes: Nodes, where: Where): Plan {
    const frames = triple((side): Span | undefined => {
      const { tree } = this.docs[side]
      return nodes[side] < 0
        ? undefined
        : { start: tree.start(nodes[side]), end: tree.end(nodes[side]) }
    })
    const kind = this.docs[MINE].kind(nodes[MINE])
    return planList(this, { nodes, ...this.contentLists(nodes, where), frames, where, kind })
  }

  /** The units of a container in each document that has it: with runs of entries as one, and each by itself. */
  contentLists(nodes: Nodes, { place }: Where): ContentLists {
    const { identities } = this.options
    const runs = this.untouched?.of(nodes, place)
    const dormant = dormantEntries(this.docs, { nodes, place, identities })
    const tiled = (each: Triple<readonly EntryRun[]> | undefined): Triple<UnitList | undefined> =>
      triple((side) => {
        const { tree, format } = this.docs[side]
        return nodes[side] < 0
          ? undefined
          : contentUnits(tree, nodes[side], format.separator, {
              runs: each?.[side],
              dormant: dormant?.entries[side],
            })
      })
    const apart = runs === undefined ? undefined : () => tiled(undefined)
    return { lists: tiled(runs), apart, dormant }
  }
}

function take(side: Side, nodes: Nodes, told: readonly Telling[] = NOTHING_TOLD): TakePlan {
  return { do: 'take', side, nodes, told }
}

function changed(side: ChangeSide, nodes: Nodes, { key }: Where, from: Side): Telling {
  return { tell: 'change', side, kind: 'changed', key, nodes, from }
}

function conflict(kind: ConflictKind, nodes: Nodes, { key }: Where): Telling {
  return { tell: 'conflict', kind, key, nodes }
}
