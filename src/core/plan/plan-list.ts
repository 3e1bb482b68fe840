import { Kind } from '../document/kind.ts'
import { sameContent } from '../formats/canonical.ts'
import { matchUnits } from '../match/match-units.ts'
import type { Matching } from '../match/matching.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { Entries } from './entries.ts'
import type { Fate } from './entry-fates.ts'
import { Fates } from './entry-fates.ts'
import { ListForm } from '../write/list-form.ts'
import { ListFrame } from '../write/list-frame.ts'
import { ListTeller } from './list-tellings.ts'
import type { ListInput, MergeContext } from './context.ts'
import type { Moves, ResultOrder } from '../match/order.ts'
import { movesOf, resultOrder } from '../match/order.ts'
import type { Nodes } from '../report/recorder.ts'
import { UnitWriter } from '../write/unit-writer.ts'

/**
 * Merges one container: which entries the result has, in which order, and each of them with its
 * comments, blanks and separator.
 */
export class ListMerge {
  private readonly entries: Entries
  private readonly input: ListInput
  private readonly moves: Moves

  constructor(
    private readonly merge: MergeContext,
    given: ListInput,
  ) {
    const { where, kind } = given
    const isDocument = kind === Kind.Document && merge.docs[MINE].format.hasOneRoot
    const isOrdered = kind === Kind.Element || kind === Kind.Array
    const { identities } = merge.options
    const scope = { place: where.place, isDocument, isOrdered, identities }
    const match = (lists: ListInput['lists'], apart?: ListInput['apart']): Matching =>
      matchUnits({ docs: merge.docs, lists, apart }, scope, merge.values)
    const matching = match(given.lists, given.apart)
    const moves = movesOf(matching)
    // what moved past a run is told of each entry, and what both moved is proven with all of them
    const isMoved = movesRuns(matching, moves) || (moves.vanillaMoved && moves.mineMoved)
    const apart = isMoved ? given.apart?.() : undefined
    if (apart === undefined) {
      this.input = given
      this.moves = moves
      this.entries = new Entries(matching, given.lists, where.key)
      return
    }
    const each = match(apart)
    this.input = { ...given, lists: apart }
    this.moves = movesOf(each)
    this.entries = new Entries(each, apart, where.key)
  }

  run(): void {
    if (this.entries.matching.isQuestion) this.ask()
    else if (this.merge.writer.isMuted) this.compareAll()
    else this.write()
  }

  /** The whole list is one question: it stands as mine has it. */
  private ask(): void {
    const { merge, input } = this
    const { nodes, where, frames, closeName } = input
    merge.record.conflict(nodes[OLD] < 0 ? 'two-new' : 'two-values', nodes, where.key)
    const frame = frames?.[MINE]
    if (frame === undefined) return
    const bodyEnd = merge.docs[MINE].tree.bodyEnd(nodes[MINE])
    const isNamed = closeName !== undefined
    merge.writer.slice(MINE, frame.start, isNamed ? bodyEnd : frame.end)
    if (isNamed)
      merge.writeClose(MINE, nodes[MINE], merge.docs[closeName.side].name(closeName.node))
    merge.wrote(MINE, nodes[MINE])
  }

  /** Where nothing is written: which entries came, went or moved, and what differs in the others. */
  private compareAll(): void {
    const { entries } = this
    const fates = new Fates(this.merge, entries)
    const tell = new ListTeller(this.merge, this.input, entries)
    const order = this.tellOrder(fates, tell)
    const merged = order.classes.filter((cls) => fates.of(cls) === 'merged')
    this.compare(merged, (cls) => {
      if (entries.matching.renamed.has(cls)) tell.rename(cls)
      tell.capitals(cls)
    })
  }

  private compare(classes: readonly number[], before?: (cls: number) => void): void {
    const { entries, merge } = this
    for (const cls of classes) {
      before?.(cls)
      const nodes = entries.nodesOf(cls)
      const [old, fresh, mine] = triple((side) => merge.slice(side, nodes))
      if (old === fresh && old === mine) continue
      if (!entries.isComment(cls)) this.mergeEntry(cls, nodes)
    }
  }

  private tellOrder(fates: Fates, tell: ListTeller): ResultOrder {
    tell.duplicates()
    const { entries } = this
    const order = resultOrder(entries.matching, this.moves, (cls) => fates.isInResult(cls))
    if (this.isOrdered()) tell.moves(order.moved, order.clash)
    return order
  }

  private write(): void {
    const { entries, merge, input } = this
    const fates = new Fates(merge, entries)
    const tell = new ListTeller(merge, input, entries)
    const form = new ListForm(merge, input)
    const units = new UnitWriter(merge, input, form)
    const order = this.tellOrder(fates, tell)
    const frame = new ListFrame(merge, input, form)
    const written = order.classes.filter((cls) => fates.of(cls) !== 'out')
    const hasEntries = order.classes.length > 0
    frame.open(hasEntries)
    const last = written.findLast((cls) => !entries.isComment(cls))
    const trailing = frame.hasTrailingSeparator()
    const lastAt = last === undefined ? -1 : order.classes.lastIndexOf(last)
    for (const [at, cls] of order.classes.entries()) {
      const fate = fates.of(cls)
      if (fate === 'out') this.leaveComments(cls, fates, units)
      else this.writeEntry(cls, { fate, units, tell }, at < lastAt || (at === lastAt && trailing))
    }
    frame.close(hasEntries)
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

  /** Of an entry that vanilla removed: the comments above it, which mine had edited. */
  private leaveComments(cls: number, fates: Fates, units: UnitWriter): void {
    const unit = this.entries.matching.unit(MINE, cls)
    if (fates.leavesComments(cls) && unit >= 0) units.ownCommentsOnly(unit)
  }

  private writeEntry(
    cls: number,
    { fate, units, tell }: { fate: Fate; units: UnitWriter; tell: ListTeller },
    wantsSeparator: boolean,
  ): void {
    const { matching } = this.entries
    const isComment = this.entries.isComment(cls)
    const separator = wantsSeparator && !isComment
    if (fate === 'vanilla-added') units.single(NEW, matching.unit(NEW, cls), separator)
    else if (fate !== 'merged') units.single(MINE, matching.unit(MINE, cls), separator)
    else {
      if (matching.renamed.has(cls)) tell.rename(cls)
      tell.capitals(cls)
      const three = triple((side) => matching.unit(side, cls))
      if (isComment) units.comment(three)
      else units.merged(three, separator, (nodes) => this.mergeEntry(cls, nodes))
    }
  }

  private mergeEntry(cls: number, nodes: Nodes): void {
    const { merge } = this
    const key = this.entries.keyOf(cls)
    const origin = nodes[OLD] < 0 ? merge.options.moved.originOf(merge.docs[NEW], nodes[NEW]) : -1
    if (origin >= 0) this.descend([origin, nodes[NEW], nodes[MINE]], key)
    else if (
      nodes[OLD] < 0 &&
      sameContent(merge.docs[NEW], nodes[NEW], merge.docs[MINE], nodes[MINE])
    ) {
      merge.record.change({ side: 'both', kind: 'added' }, nodes, key, MINE)
      merge.ledger.withoutRows(() => this.descend(nodes, key))
    } else this.descend(nodes, key)
  }

  private descend(nodes: Nodes, key: string): void {
    const place = this.merge.placeInside(MINE, nodes[MINE], this.input.where.place)
    this.merge.node(nodes, { key, place })
  }
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
