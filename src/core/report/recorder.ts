import { detached } from '../document/characters.ts'
import type { Position } from '../document/line-map.ts'
import type { Doc } from '../formats/doc.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../document/sides.ts'
import { valuePlace } from '../formats/value-place.ts'
import { decodedValue, jsonType, ownText, shownValue } from '../formats/shown-value.ts'
import type { EntryPlan, Plan, ToldChange } from '../plan/plan.ts'
import type {
  ChangeKind,
  ConflictKind,
  InputName,
  InputProblem,
  Nodes,
  ToldConflict,
  ToldOrder,
  ToldStretch,
  ToldValues,
} from '../plan/telling.ts'
import { shownPlan } from './shown-plan.ts'
import { innerChanges } from './inner-changes.ts'
import type { InnerChange, Ledger, Types } from './ledger.ts'

/** What is told of the value at a key, and of nothing around it. */
const OF_VALUES: ReadonlySet<ChangeKind | ConflictKind> = new Set([
  'changed',
  'two-values',
  'two-new',
])

export interface ReportOptions {
  /** The key whose places are told with its change. */
  explain: string | undefined
  /** The text of what was put together. */
  textOf: (plan: Plan) => string
}

/** Tells the ledger what became of nodes: their values as they stand in the sources, and their places. */
export class Recorder {
  constructor(
    private readonly docs: Triple<Doc>,
    private readonly ledger: Ledger,
    private readonly options: ReportOptions,
  ) {}

  /** @param entry what becomes of the entry that the row is of, where that says what stands */
  change(told: ToldChange, entry?: EntryPlan): void {
    const { side, kind, key, nodes, from, was, covers = [] } = told
    const result = from === undefined ? null : this.stands(from, nodes, kind, entry)
    this.ledger.change({
      key,
      side,
      kind,
      ...(was === undefined ? {} : { was }),
      ...this.shownOf(kind, nodes),
      result,
      ...this.types(nodes),
      ...(key === this.options.explain ? { at: this.places(nodes) } : {}),
    })
    for (const covered of covers) this.ledger.cover(covered)
  }

  /** What stands at a key: as one side has it, or put together. */
  private stands(
    from: Side,
    nodes: Nodes,
    kind: ChangeKind,
    entry: EntryPlan | undefined,
  ): string | null {
    const side = entry?.whole ?? from
    const plan = entry?.whole === undefined ? entry?.parts?.entry : undefined
    if (plan === undefined) return this.shown(side, nodes, kind)
    return shownPlan(plan, this.docs, [side, nodes[side]], this.options.textOf)
  }

  /** A change whose values are no nodes. */
  values({ side, kind, key, was, values, result }: ToldValues): void {
    const [old, fresh, mine] = values
    const renamed = was === undefined ? {} : { was }
    this.ledger.change({ key, side, kind, ...renamed, old, new: fresh, mine, result })
  }

  /** A key that both sides changed differently. */
  conflict({ kind, nodes, key, commentedOut, tied, perhaps, settled }: ToldConflict): void {
    const at = this.places(nodes)
    if (commentedOut !== undefined) {
      const { side, comment } = commentedOut
      at[SIDE_NAMES[side]] = this.start(side, comment)
    }
    this.ledger.conflict(
      {
        key,
        kind,
        ...this.shownOf(kind, nodes),
        result: this.shown(MINE, nodes, kind),
        at,
        ...this.inside(kind, nodes),
        ...this.types(nodes),
        ...(tied === undefined ? {} : { together: tied.map(detached) }),
        ...(perhaps === undefined
          ? {}
          : { perhaps: { path: this.ledger.path, key: detached(perhaps) } }),
      },
      triple((side) => this.decoded(side, nodes[side], kind)),
      settled,
    )
  }

  /** The value by which a conflict is named: that which is shown. */
  private decoded(side: Side, node: number, kind: ConflictKind): string | null {
    const doc = this.docs[side]
    const isText = node >= 0 && OF_VALUES.has(kind) && ownText(doc, node) !== undefined
    return isText ? doc.elementText(node) : decodedValue(doc, node)
  }

  /** A stretch of a list that both sides rewrote. */
  stretch({ key, nodes, settled }: ToldStretch): void {
    const names = SIDES.flatMap((side) => nodes[side].map((node) => this.docs[side].name(node)))
    // where their names differ the values alone may look alike
    const shown = new Set(names).size > 1 ? sourceOf : shownValue
    const [old, fresh, mine] = triple((side) => shownTogether(this.docs[side], nodes[side], shown))
    const inBoth = old === null ? 'two-new' : 'two-values'
    const kind = fresh === null ? 'gone-in-vanilla' : mine === null ? 'gone-in-mine' : inBoth
    this.ledger.conflict(
      {
        key,
        kind,
        old,
        new: fresh,
        mine,
        result: mine,
        at: this.places(triple((side) => nodes[side][0] ?? -1)),
        ...(kind === inBoth ? { takesBoth: true as const } : {}),
        ...this.types(triple((side) => (nodes[side].length === 1 ? (nodes[side][0] ?? -1) : -1))),
      },
      triple((side) =>
        nodes[side].length === 0
          ? null
          : nodes[side].map((node) => decodedValue(this.docs[side], node)).join(''),
      ),
      settled,
    )
  }

  /** Both re-ordered where order matters. */
  order({ key, nodes, orders, settled }: ToldOrder): void {
    const [old, fresh, mine] = orders
    const at = (side: Side): Position => this.start(side, nodes[side])
    const places = { old: at(OLD), new: at(NEW), mine: at(MINE) }
    this.ledger.conflict(
      { key, kind: 'order', old, new: fresh, mine, result: mine, at: places },
      orders,
      settled,
    )
  }

  /** What there is to know of an input. */
  problem(problem: InputProblem): void {
    const doc = this.docs[SIDE_NAMES.indexOf(problem.input) as Side]
    const { related } = problem
    const span = doc.givenSpan(problem.span)
    this.ledger.problem(
      related === undefined
        ? { ...problem, span }
        : { ...problem, span, related: { ...related, span: doc.givenSpan(related.span) } },
    )
  }

  /** Of an entry that is gone on one side: what the other changed in it. */
  private inside(kind: ConflictKind, nodes: Nodes): { inside?: InnerChange[] } {
    const side = kind === 'gone-in-vanilla' ? MINE : kind === 'gone-in-mine' ? NEW : undefined
    if (side === undefined || nodes[OLD] < 0 || nodes[side] < 0) return {}
    return { inside: innerChanges(this.docs[OLD], nodes[OLD], this.docs[side], nodes[side]) }
  }

  private places(nodes: Nodes): Record<InputName, Position | null> {
    const position = (side: Side): Position | null =>
      nodes[side] < 0 ? null : this.docs[side].placeAt(valuePlace(this.docs[side], nodes[side]))
    return { old: position(OLD), new: position(NEW), mine: position(MINE) }
  }

  private start(side: Side, node: number): Position {
    return this.docs[side].placeAt(this.docs[side].tree.start(node))
  }

  private shownOf(kind: ChangeKind | ConflictKind, nodes: Nodes): Record<InputName, string | null> {
    const [old, fresh, mine] = triple((side) => this.shown(side, nodes, kind))
    return { old, new: fresh, mine }
  }

  /** An entry that came or went is its source; of one that was changed its own value. */
  private shown(side: Side, nodes: Nodes, kind: ChangeKind | ConflictKind): string | null {
    const [doc, node] = [this.docs[side], nodes[side]]
    if (node < 0) return null
    return OF_VALUES.has(kind)
      ? (ownText(doc, node) ?? shownValue(doc, node))
      : shownValue(doc, node)
  }

  private types(nodes: Nodes): { types?: Types } {
    const [old, fresh, mine] = triple((side) =>
      nodes[side] < 0 ? undefined : jsonType(this.docs[side], nodes[side]),
    )
    const distinct = new Set([old, fresh, mine].filter((type) => type !== undefined))
    if (distinct.size < 2) return {}
    return { types: { old: old ?? null, new: fresh ?? null, mine: mine ?? null } }
  }
}

/** What a report shows of several nodes of a document; null where there are none. */
function shownTogether(
  doc: Doc,
  nodes: readonly number[],
  shown: (doc: Doc, node: number) => string,
): string | null {
  return nodes.length === 0 ? null : nodes.map((node) => shown(doc, node)).join(', ')
}

function sourceOf(doc: Doc, node: number): string {
  return doc.slice(node).trim()
}
