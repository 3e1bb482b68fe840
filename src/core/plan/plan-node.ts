import { Kind } from '../document/kind.ts'
import { countLineEnds } from '../document/characters.ts'
import type { Span } from '../document/problem.ts'
import type { EntryRun, UnitList } from '../document/unit-list.ts'
import { contentUnits } from '../document/unit-list.ts'
import { canonical, sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { placeOf } from '../identity/place.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Choice, ContentLists, MergeContext, MergeOptions, Where } from './context.ts'
import { ValueCarry } from '../match/carry-values.ts'
import { ElementMerge, writeClose } from './plan-element.ts'
import { indentStep } from '../write/indent.ts'
import type { Ledger } from '../report/ledger.ts'
import { ListMerge } from './plan-list.ts'
import { mergeListValue } from './list-value.ts'
import { OneSided } from './one-sided.ts'
import { pick, pickSide } from '../document/pick.ts'
import { Together } from './tied-keys.ts'
import type { Nodes } from '../report/recorder.ts'
import { Recorder } from '../report/recorder.ts'
import { UntouchedRuns } from './same/untouched-runs.ts'
import { Writer } from '../write/writer.ts'

/**
 * The three-way merge of one document. Where two of three slices are equal the third is taken;
 * else it descends; at a leaf that both changed it notes a conflict, and mine stands.
 */
export class Merge implements MergeContext {
  readonly writer: Writer
  readonly record: Recorder
  private readonly elements: ElementMerge
  readonly together: Together
  readonly values: ValueCarry
  private readonly oneSided: OneSided
  private readonly untouched: UntouchedRuns | undefined
  /** Whether the last line written is a comment that belongs to no entry: what follows must not take it over. */
  endsInFreeComment = false
  private knownSteps: { inputs: Triple<string>; result: string } | undefined

  constructor(
    readonly docs: Triple<Doc>,
    /** Which of the documents there are: a file that both brought has no old. */
    readonly present: Triple<boolean>,
    readonly ledger: Ledger,
    readonly options: MergeOptions,
  ) {
    this.writer = new Writer(docs)
    this.record = new Recorder(docs, ledger, options.explain)
    this.elements = new ElementMerge(this)
    this.together = new Together(docs, options.together)
    this.values = new ValueCarry(options.identities)
    this.oneSided = new OneSided(this, options.thresholds.oneSided)
    // where order matters a clash is told with all entries in their order
    if (options.ordered.size === 0)
      this.untouched = new UntouchedRuns(docs, options.identities, options.thresholds.untouched)
  }

  /** One step of nesting in each document, and in the result; worked out when something is to be fitted. */
  get steps(): { inputs: Triple<string>; result: string } {
    if (this.knownSteps !== undefined) return this.knownSteps
    const { docs, present } = this
    const steps = triple((side) =>
      present[side] ? indentStep(docs[side].tree, docs[side].lines) : undefined,
    )
    const result = pick(steps) ?? '  '
    this.knownSteps = { inputs: triple((side) => steps[side] ?? result), result }
    return this.knownSteps
  }

  /** Merges the whole documents; gives the text of the result. */
  run(): string {
    const nodes = triple((side) => (this.present[side] ? 0 : -1))
    this.node(nodes, { key: '', place: '' })
    return this.writer.text()
  }

  /** Merges one entry by itself; gives its text. */
  entry(nodes: Nodes, where: Where): string {
    this.node(nodes, where)
    return this.writer.text()
  }

  /** The text of a node in one of the documents. */
  slice(side: Side, nodes: Nodes): string | undefined {
    const node = nodes[side]
    return node < 0 ? undefined : this.docs[side].slice(node)
  }

  /** Merges one entry that new and mine have (old may lack it). */
  node(nodes: Nodes, where: Where): void {
    const tied = this.together.keysOf(nodes)
    if (tied !== undefined) {
      this.record.conflict(nodes[OLD] < 0 ? 'two-new' : 'two-values', nodes, where.key, { tied })
      this.whole(MINE, nodes)
      return
    }
    if (this.together.isAround(nodes)) {
      this.descend(nodes, where)
      return
    }
    const [old, fresh, mine] = triple((side) => this.slice(side, nodes))
    if (fresh === mine) {
      this.whole(MINE, nodes)
      if (old !== mine) this.writer.muted(() => this.descend(nodes, where))
    } else if (old !== undefined && old === mine) {
      this.whole(NEW, nodes)
      this.oneSided.tell(NEW, nodes, where)
    } else if (old !== undefined && old === fresh) {
      this.whole(MINE, nodes)
      this.oneSided.tell(MINE, nodes, where)
    } else this.descend(nodes, where)
  }

  /** Writes one document's whole node. */
  private whole(side: Side, nodes: Nodes): void {
    const { tree } = this.docs[side]
    this.writer.slice(side, tree.start(nodes[side]), tree.end(nodes[side]))
    this.wrote(side, nodes[side])
  }

  /** Remembers whether what was written ends in a comment that belongs to no entry. */
  wrote(side: Side, node: number): void {
    if (this.writer.isMuted) return
    const { tree } = this.docs[side]
    const last = tree.next(node) - 1
    const inSection =
      tree.kind(node) === Kind.Section &&
      tree.kind(last) === Kind.Comment &&
      countLineEnds(tree.source, tree.bodyStart(node), tree.start(last)) > 0
    this.endsInFreeComment = tree.kind(node) === Kind.Comment || inSection
  }

  /** Merges what a node holds. */
  descend(nodes: Nodes, where: Where): void {
    const [old, fresh, mine] = nodes
    const kind = this.docs[MINE].kind(mine)
    if (this.docs[NEW].kind(fresh) !== kind) this.shape(nodes, where)
    else if (old >= 0 && this.docs[OLD].kind(old) !== kind) this.reshaped(nodes, where)
    else this.alike(kind, nodes, where)
  }

  /** New and mine are of one kind that old was not: what they hold is new in both. */
  private reshaped(nodes: Nodes, where: Where): void {
    const [, fresh, mine] = nodes
    if (sameContent(this.docs[NEW], fresh, this.docs[MINE], mine)) {
      this.record.change({ side: 'both', kind: 'changed' }, nodes, where.key, MINE)
      this.whole(MINE, nodes)
      return
    }
    const leaf = this.docs[MINE].kind(mine) === Kind.Scalar
    if (leaf) this.record.conflict('two-values', nodes, where.key)
    if (leaf) this.whole(MINE, nodes)
    else this.alike(this.docs[MINE].kind(mine), [-1, fresh, mine], where)
  }

  private alike(kind: Kind, nodes: Nodes, where: Where): void {
    if (kind !== Kind.Member && kind !== Kind.Array) this.together.enter(nodes, where.place)
    switch (kind) {
      case Kind.Element:
        this.elements.run(nodes, where)
        break
      case Kind.Member:
        this.member(nodes, where)
        break
      case Kind.Document:
      case Kind.Section:
      case Kind.Object:
      case Kind.Array:
        this.container(nodes, where)
        break
      default:
        this.leaf(nodes, where)
    }
  }

  // Leaves

  private leaf(nodes: Nodes, where: Where): void {
    const starts = triple((side) => this.valueStart(side, nodes[side]))
    this.form(triple((side) => this.spanTo(side, nodes[side], starts[side])))
    const { side, made } = this.value(
      triple((each) => (nodes[each] < 0 ? undefined : canonical(this.docs[each], nodes[each]))),
      triple((each) =>
        nodes[each] < 0
          ? ''
          : this.docs[each].tree.source.slice(starts[each], this.end(each, nodes[each])),
      ),
      nodes,
      where,
    )
    const { tree } = this.docs[side]
    if (made === undefined) this.writer.slice(side, starts[side], this.end(side, nodes[side]))
    else {
      this.writer.slice(side, starts[side], tree.bodyStart(nodes[side]))
      this.writer.made(made)
      this.writer.slice(side, tree.bodyEnd(nodes[side]), this.end(side, nodes[side]))
    }
  }

  /** The stretch from a node's start to an offset in it; undefined where there is no node. */
  private spanTo(side: Side, node: number, end: number): Span | undefined {
    return node < 0 ? undefined : { start: this.start(side, node), end }
  }

  /** The offset at which a node starts. */
  start(side: Side, node: number): number {
    return this.docs[side].tree.start(node)
  }

  /** The offset after a node. */
  end(side: Side, node: number): number {
    return this.docs[side].tree.end(node)
  }

  /** Where a leaf's value begins, quotes included: what stands before is its name and form. */
  private valueStart(side: Side, node: number): number {
    if (node < 0) return 0
    const { tree } = this.docs[side]
    if (tree.kind(node) === Kind.Attribute) return tree.bodyStart(node) - 1
    if (tree.kind(node) === Kind.Property) return tree.bodyStart(node)
    return tree.start(node)
  }

  /**
   * Decides a value by its decoded forms; tells the ledger; gives the side whose text stands.
   * Where all are equal by value, their form is chosen like any other.
   */
  value(
    values: Triple<string | undefined>,
    raw: Triple<string>,
    nodes: Nodes,
    where: Where,
  ): Choice {
    const [old, fresh, mine] = values
    const { key } = where
    if (fresh === mine) {
      if (old === undefined) this.record.change({ side: 'both', kind: 'added' }, nodes, key, MINE)
      else if (old !== mine) this.record.change({ side: 'both', kind: 'changed' }, nodes, key, MINE)
      return { side: old === mine && raw[OLD] === raw[MINE] ? NEW : MINE }
    }
    if (old !== undefined && old === mine) {
      this.record.change({ side: 'vanilla', kind: 'changed' }, nodes, key, NEW)
      return { side: NEW }
    }
    if (old !== undefined && old === fresh) {
      this.record.change({ side: 'mine', kind: 'changed' }, nodes, key, MINE)
      return { side: MINE }
    }
    const separator = this.options.lists.get(where.place)
    if (separator !== undefined) return this.listValue(nodes, key, separator)
    this.record.conflict(old === undefined ? 'two-new' : 'two-values', nodes, key)
    return { side: MINE }
  }

  /** Both changed a value that holds a list: it is merged item by item. */
  private listValue(nodes: Nodes, key: string, separator: string): Choice {
    const inner = triple((side) =>
      nodes[side] < 0 ? '' : this.docs[side].tree.body(nodes[side]).trim(),
    )
    const made = mergeListValue(inner, separator)
    this.record.made(nodes, key, made)
    return { side: MINE, made }
  }

  /** A value here, a list or an entry there. */
  private shape(nodes: Nodes, where: Where): void {
    const same = (a: Side, b: Side): boolean =>
      sameContent(this.docs[a], nodes[a], this.docs[b], nodes[b])
    if (nodes[OLD] >= 0 && same(OLD, MINE)) {
      this.record.change({ side: 'vanilla', kind: 'changed' }, nodes, where.key, NEW)
      this.whole(NEW, nodes)
      return
    }
    if (nodes[OLD] >= 0 && same(OLD, NEW))
      this.record.change({ side: 'mine', kind: 'changed' }, nodes, where.key, MINE)
    else this.record.conflict('shape', nodes, where.key)
    this.whole(MINE, nodes)
  }

  // Containers

  private member(nodes: Nodes, where: Where): void {
    const values = triple((side) =>
      nodes[side] < 0 ? -1 : this.docs[side].memberValue(nodes[side]),
    )
    this.form(
      triple((side) =>
        nodes[side] < 0
          ? undefined
          : this.spanTo(side, nodes[side], this.start(side, values[side])),
      ),
    )
    this.node(values, where)
  }

  private container(nodes: Nodes, where: Where): void {
    const frames = triple((side) =>
      nodes[side] < 0
        ? undefined
        : { start: this.start(side, nodes[side]), end: this.end(side, nodes[side]) },
    )
    new ListMerge(this, {
      nodes,
      ...this.contentLists(nodes, where),
      frames,
      where,
      kind: this.docs[MINE].kind(nodes[MINE]),
    }).run()
  }

  /** The units of a container in each document that has it: with runs of entries as one, and each by itself. */
  contentLists(nodes: Nodes, { place }: Where): ContentLists {
    const runs = this.untouched?.of(nodes, place)
    const tiled = (each: Triple<readonly EntryRun[]> | undefined): Triple<UnitList | undefined> =>
      triple((side) => {
        const { tree, format } = this.docs[side]
        return nodes[side] < 0
          ? undefined
          : contentUnits(tree, nodes[side], format.separator, each?.[side])
      })
    return { lists: tiled(runs), apart: runs === undefined ? undefined : () => tiled(undefined) }
  }

  /** Writes a stretch that is form alone, chosen three-way. */
  form(spans: Triple<Span | undefined>): void {
    const side = pickSide(
      triple((each) => {
        const span = spans[each]
        return span === undefined
          ? undefined
          : this.docs[each].tree.source.slice(span.start, span.end)
      }),
    )
    const span = side === undefined ? undefined : spans[side]
    if (side !== undefined && span !== undefined) this.writer.slice(side, span.start, span.end)
  }

  writeClose(side: Side, node: number, name: string | undefined): void {
    writeClose(this, side, node, name)
  }

  /** The place of what a node holds: its own name added, where it has one that is part of a place. */
  placeInside(side: Side, node: number, place: string): string {
    const doc = this.docs[side]
    const kind = doc.kind(node)
    if (kind === Kind.Attribute) return placeOf(place, `@${doc.name(node)}`)
    if (kind === Kind.Member || kind === Kind.Section || kind === Kind.Property) {
      return placeOf(place, foldName(doc.format, doc.name(node)))
    }
    if (kind !== Kind.Element || node === doc.root()) return place
    return placeOf(place, doc.name(node))
  }
}
