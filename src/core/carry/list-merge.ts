import { Kind } from '../document/kind.ts'
import type { Position } from '../document/line-map.ts'
import type { Span } from '../document/problem.ts'
import type { UnitList } from '../document/unit-list.ts'
import { sameContent } from '../formats/canonical.ts'
import type { Matching } from '../identity/matching.ts'
import { matchUnits } from '../identity/match.ts'
import { segmentOf } from '../identity/segment.ts'
import type { Side, Triple } from '../identity/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../identity/sides.ts'
import { joinKey, quoteName } from '../keys/key.ts'
import { findCommentedOut } from './commented-out.ts'
import { commentsInside, ownComments, trailingComments } from './comments.ts'
import { ListForm } from './list-form.ts'
import { ListFrame } from './list-frame.ts'
import type { Merge, Where } from './merge.ts'
import type { Nodes } from './recorder.ts'
import { resultOrder } from './order.ts'
import { carryProblems } from './problems.ts'
import { UnitWriter } from './unit-writer.ts'

/** One container as a list of units, in the documents that have it. */
export interface ListInput {
  nodes: Nodes
  lists: Triple<UnitList | undefined>
  /** Where the container's opening begins and its closing ends; undefined for attributes, which have neither. */
  frames: Triple<Span | undefined> | undefined
  where: Where
  /** The kind of the container; `Attribute` for the attributes of an element. */
  kind: Kind
  /** Whose name an element's close tag gets. */
  closeName?: { side: Side; node: number }
}

/** What becomes of an entry. */
type Fate = 'merged' | 'vanilla-added' | 'mine-added' | 'kept-against-vanilla' | 'out'

/**
 * Merges one container: which entries the result has, in which order, and each of them with its
 * comments, blanks and separator.
 */
export class ListMerge {
  private readonly matching: Matching
  private readonly fates: Fate[] = []
  private readonly form: ListForm
  private readonly units: UnitWriter
  /** Comments of removed entries that mine had edited, to be written where the entry stood. */
  private readonly leftComments = new Set<number>()

  private comments: Triple<Map<string, number>> | undefined

  constructor(
    private readonly merge: Merge,
    private readonly input: ListInput,
  ) {
    const { nodes, where, kind } = input
    const side = nodes[MINE] >= 0 ? MINE : nodes[NEW] >= 0 ? NEW : OLD
    const isDocument = kind === Kind.Document && merge.docs[side].format.name !== 'ini'
    const { identities } = merge.options
    this.matching = matchUnits(merge.docs, input.lists, {
      place: where.place,
      isDocument,
      identities,
    })
    this.form = new ListForm(merge, input)
    this.units = new UnitWriter(merge, input, this.form)
  }

  run(): void {
    for (let cls = 0; cls < this.matching.length; cls++) {
      this.fates.push(this.matching.isVoid(cls) ? 'out' : this.fate(cls))
    }
    this.tellDuplicates()
    const order = resultOrder(this.matching, (cls) => this.isInResult(cls))
    if (this.isOrdered()) this.tellMoves(order.moved, order.clash)
    const frame = new ListFrame(this.merge, this.input, this.form)
    const entries = order.classes.filter((cls) => this.fates[cls] !== 'out')
    const hasEntries = order.classes.length > 0
    frame.open(hasEntries)
    const last = entries.findLastIndex((cls) => !this.isComment(cls))
    const trailing = frame.hasTrailingSeparator()
    let written = -1
    for (const cls of order.classes) {
      if (this.fates[cls] === 'out') this.leaveComments(cls)
      else this.write(cls, ++written < last || (written === last && trailing))
    }
    frame.close(hasEntries)
  }

  private isInResult(cls: number): boolean {
    return this.fates[cls] !== 'out' || this.leftComments.has(cls)
  }

  private isComment(cls: number): boolean {
    return SIDES.some((side) => {
      const unit = this.matching.unit(side, cls)
      return unit >= 0 && this.input.lists[side]?.isComment(unit) === true
    })
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

  // Fates

  private fate(cls: number): Fate {
    const [old, fresh, mine] = this.nodesOf(cls)
    if (fresh >= 0 && mine >= 0) return 'merged'
    if (this.isComment(cls)) return this.commentFate(cls)
    const clash = this.twinClash(cls)
    if (clash !== undefined) {
      this.merge.record.conflict(clash, this.nodesOf(cls), this.keyOf(cls))
      return clash === 'gone-in-vanilla' ? 'kept-against-vanilla' : 'out'
    }
    if (old < 0) return this.addedFate(cls, mine >= 0)
    return this.removedFate(cls)
  }

  private nodesOf(cls: number): Nodes {
    return triple((side) => this.matching.node(side, cls))
  }

  /**
   * Of entries that nothing tells apart, one side dropped some and the other added some: which of them
   * are meant cannot be known, so it is a conflict of them all.
   */
  private twinClash(cls: number): 'gone-in-vanilla' | 'gone-in-mine' | undefined {
    const twins = this.matching.twins.get(cls)
    if (twins === undefined) return undefined
    const isIn = (twin: number, ...sides: boolean[]): boolean =>
      this.nodesOf(twin).every((node, side) => node >= 0 === sides[side])
    const some = (...sides: boolean[]): boolean => twins.some((twin) => isIn(twin, ...sides))
    if (
      (isIn(cls, true, true, false) || isIn(cls, false, true, false)) &&
      some(true, true, false) &&
      some(false, true, false)
    ) {
      return 'gone-in-mine'
    }
    if (
      (isIn(cls, true, false, true) || isIn(cls, false, false, true)) &&
      some(true, false, true) &&
      some(false, false, true)
    ) {
      return 'gone-in-vanilla'
    }
    return undefined
  }

  private addedFate(cls: number, byMine: boolean): Fate {
    const nodes = this.nodesOf(cls)
    if (this.merge.options.everyDifference) {
      const kind = byMine ? 'gone-in-vanilla' : 'gone-in-mine'
      this.merge.record.conflict(kind, nodes, this.keyOf(cls))
      return byMine ? 'kept-against-vanilla' : 'out'
    }
    this.merge.record.change(
      byMine ? 'mine' : 'vanilla',
      'added',
      nodes,
      this.keyOf(cls),
      byMine ? MINE : NEW,
    )
    return byMine ? 'mine-added' : 'vanilla-added'
  }

  private removedFate(cls: number): Fate {
    const nodes = this.nodesOf(cls)
    const [, fresh, mine] = nodes
    if (fresh < 0 && mine < 0) this.removedRow('both', cls)
    else if (fresh < 0) {
      if (!this.isAsInOld(MINE, nodes)) {
        this.merge.record.conflict('gone-in-vanilla', nodes, this.keyOf(cls))
        return 'kept-against-vanilla'
      }
      this.removedRow('vanilla', cls)
      this.keepEditedComments(cls)
    } else if (this.isAsInOld(NEW, nodes)) {
      this.removedRow('mine', cls)
      this.noteLost(cls, NEW)
    } else {
      this.merge.record.conflict(
        'gone-in-mine',
        nodes,
        this.keyOf(cls),
        this.commentedOut(nodes, cls),
      )
      this.noteLost(cls, NEW)
    }
    return 'out'
  }

  /** The comment of mine that is the entry, commented out; -1 where there is none. */
  private commentedOut(nodes: Nodes, cls: number): number {
    const list = this.input.lists[MINE]
    if (list === undefined) return -1
    const means = this.matching.means(OLD, this.matching.unit(OLD, cls))
    const identity = means?.by === 'identity' ? means.identity : undefined
    const { docs } = this.merge
    return findCommentedOut(docs[MINE], list, { doc: docs[OLD], node: nodes[OLD], identity })
  }

  private removedRow(side: 'vanilla' | 'mine' | 'both', cls: number): void {
    this.merge.record.change(side, 'removed', this.nodesOf(cls), this.keyOf(cls), undefined)
  }

  private isAsInOld(side: Side, nodes: Nodes): boolean {
    const { docs } = this.merge
    return sameContent(docs[OLD], nodes[OLD], docs[side], nodes[side])
  }

  /** A comment of its own that one side removed: gone, unless mine had rewritten it. */
  private commentFate(cls: number): Fate {
    const [old, fresh, mine] = triple((side) => this.unitForm(side, cls))
    const clash = this.twinClash(cls)
    if (clash === 'gone-in-vanilla') return 'kept-against-vanilla'
    if (clash === 'gone-in-mine') return 'out'
    if (old === undefined && mine !== undefined) return 'mine-added'
    if (old === undefined) return this.hasAlready(fresh ?? '') ? 'out' : 'vanilla-added'
    if (fresh === undefined)
      return mine !== undefined && mine !== old ? 'kept-against-vanilla' : 'out'
    if (fresh !== old) this.noteComments(NEW, [this.matching.node(NEW, cls)])
    return 'out'
  }

  /**
   * Whether mine has a comment of these words as often as new: it may stand directly above an entry
   * here and apart from it there. One that is put in counts from then on.
   */
  private hasAlready(text: string): boolean {
    this.comments ??= triple((side) => this.countComments(side))
    const [, fresh, mine] = triple((side) => this.comments?.[side].get(text) ?? 0)
    if (mine >= fresh) return true
    this.comments[MINE].set(text, mine + 1)
    return false
  }

  /** How often each comment stands among this container's entries, apart or directly above one. */
  private countComments(side: Side): Map<string, number> {
    const counts = new Map<string, number>()
    const list = this.input.lists[side]
    const doc = this.merge.docs[side]
    for (let unit = 0; unit < (list?.length ?? 0); unit++) {
      if (list === undefined) break
      const own = list.isComment(unit) ? [list.node[unit] ?? 0] : ownComments(list, unit)
      for (const comment of own) {
        const text = doc.commentText(comment)
        counts.set(text, (counts.get(text) ?? 0) + 1)
      }
    }
    return counts
  }

  private unitForm(side: Side, cls: number): string | undefined {
    const node = this.matching.node(side, cls)
    return node < 0 ? undefined : this.merge.docs[side].commentText(node)
  }

  // Comments of what is removed

  /** Vanilla removed an entry: comments of it that mine had edited stay, with a note. */
  private keepEditedComments(cls: number): void {
    const [old, , mine] = triple((side) => this.commentsOf(side, cls))
    const known = new Set(old.map((comment) => this.merge.docs[OLD].commentText(comment)))
    const edited = (comment: number): boolean =>
      !known.has(this.merge.docs[MINE].commentText(comment))
    const list = this.input.lists[MINE]
    const unit = this.matching.unit(MINE, cls)
    if (list === undefined || unit < 0) return
    const own = ownComments(list, unit)
    if (own.some(edited)) this.leftComments.add(cls)
    this.noteComments(
      MINE,
      mine.filter((comment) => edited(comment)),
    )
  }

  /** Mine removed an entry: what vanilla had written anew in its comments is quoted. */
  private noteLost(cls: number, side: Side): void {
    const known = new Set(
      this.commentsOf(OLD, cls).map((comment) => this.merge.docs[OLD].commentText(comment)),
    )
    const doc = this.merge.docs[side]
    this.noteComments(
      side,
      this.commentsOf(side, cls).filter((comment) => !known.has(doc.commentText(comment))),
    )
  }

  /** All comments that go with an entry: above it, in it and behind it. */
  private commentsOf(side: Side, cls: number): number[] {
    const list = this.input.lists[side]
    const unit = this.matching.unit(side, cls)
    if (list === undefined || unit < 0) return []
    const inside = commentsInside(this.merge.docs[side], list.node[unit] ?? 0)
    return [...ownComments(list, unit), ...inside, ...trailingComments(list, unit)]
  }

  private noteComments(side: Side, comments: readonly number[]): void {
    if (this.merge.writer.isMuted) return
    for (const comment of comments) {
      this.merge.ledger.problem(carryProblems.commentQuoted(this.merge.docs[side], comment, side))
    }
  }

  private leaveComments(cls: number): void {
    const unit = this.matching.unit(MINE, cls)
    if (this.leftComments.has(cls) && unit >= 0) this.units.ownCommentsOnly(unit)
  }

  // Order

  private tellMoves(
    moved: ReadonlyMap<number, 'vanilla' | 'mine' | 'both'>,
    clash: readonly number[],
  ): void {
    for (const [cls, side] of moved) {
      const nodes = this.nodesOf(cls)
      this.merge.record.change(
        side,
        'moved',
        nodes,
        this.keyOf(cls),
        side === 'vanilla' ? NEW : MINE,
      )
    }
    if (clash.length === 0 || this.merge.writer.isMuted) return
    const place = this.entryPlace(clash[0] ?? 0)
    if (this.merge.options.ordered.has(place)) {
      this.tellOrderClash(place)
      return
    }
    const node = this.nodesOf(clash[0] ?? 0)[NEW]
    const doc = this.merge.docs[NEW]
    this.merge.ledger.problem(
      carryProblems.orderKept(
        doc,
        node,
        clash.map((cls) => this.keyOf(cls)),
      ),
    )
  }

  /** The place of an entry of this container: where config keys are looked up. */
  private entryPlace(cls: number): string {
    const node = this.nodesOf(cls)[MINE]
    return this.merge.placeInside(MINE, node, this.input.where.place)
  }

  /** Both re-ordered where order matters: one conflict, with the three orders as its values. */
  private tellOrderClash(place: string): void {
    const { docs, ledger } = this.merge
    const { nodes, where } = this.input
    const orders = triple((side) =>
      this.matching.classOf[side]
        .filter((cls) => !this.isComment(cls))
        .map((cls) => segmentOf(this.matching, cls, side))
        .join(', '),
    )
    const [old, fresh, mine] = orders
    const at = (side: Side): Position =>
      docs[side].lines.at(docs[side].tree.start[nodes[side]] ?? 0)
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

  // Writing

  private write(cls: number, separator: boolean): void {
    switch (this.fates[cls]) {
      case 'merged':
        this.writeMerged(cls, separator && !this.isComment(cls))
        break
      case 'vanilla-added':
        this.units.single(NEW, this.matching.unit(NEW, cls), separator && !this.isComment(cls))
        break
      default:
        this.units.single(MINE, this.matching.unit(MINE, cls), separator && !this.isComment(cls))
    }
  }

  private writeMerged(cls: number, separator: boolean): void {
    const units = triple((side) => this.matching.unit(side, cls))
    if (this.matching.renamed.has(cls)) this.tellRename(cls)
    this.tellCase(cls)
    if (this.isComment(cls)) this.units.comment(units)
    else this.units.merged(units, separator, (nodes) => this.mergeEntry(cls, nodes))
  }

  private mergeEntry(cls: number, nodes: Nodes): void {
    const { merge } = this
    const key = this.keyOf(cls)
    if (nodes[OLD] < 0 && sameContent(merge.docs[NEW], nodes[NEW], merge.docs[MINE], nodes[MINE])) {
      merge.record.change('both', 'added', nodes, key, MINE)
      merge.ledger.withoutRows(() => this.descend(nodes, key))
    } else this.descend(nodes, key)
  }

  private descend(nodes: Nodes, key: string): void {
    const place = this.merge.placeInside(MINE, nodes[MINE], this.input.where.place)
    this.merge.node(nodes, { key, place })
  }

  /** A name that mine writes with other capitals than vanilla. */
  private tellCase(cls: number): void {
    const { docs, ledger, writer } = this.merge
    if (!docs[MINE].format.foldsCase || writer.isMuted) return
    const [, fresh, mine] = this.nodesOf(cls)
    const [theirs, ours] = [docs[NEW].name(fresh), docs[MINE].name(mine)]
    if (theirs !== ours && theirs.toLowerCase() === ours.toLowerCase()) {
      ledger.problem(carryProblems.otherCase(docs[MINE], mine, theirs))
    }
  }

  /** Two entries of one identity, or two members of one name, in one document: a slip, most likely. */
  private tellDuplicates(): void {
    for (const [cls, twins] of this.matching.twins) {
      const side = [MINE, NEW].find((each) => this.matching.unit(each as Side, cls) >= 0) as
        Side | undefined
      if (side === undefined || !this.isToldByName(side, cls)) continue
      const first = twins.find((twin) => this.matching.unit(side, twin) >= 0) ?? cls
      if (first === cls) continue
      const { docs, ledger } = this.merge
      const nodes = [this.matching.node(side, cls), this.matching.node(side, first)] as const
      ledger.problem(carryProblems.duplicateKey(docs[side], nodes, side, this.keyOf(first)))
    }
  }

  private isToldByName(side: Side, cls: number): boolean {
    const kind = this.merge.docs[side].kind(this.matching.node(side, cls))
    const means = this.matching.means(side, this.matching.unit(side, cls))
    return means?.by === 'identity' || kind === Kind.Member
  }

  private tellRename(cls: number): void {
    const keys = triple((side) => {
      const segment =
        this.matching.unit(side, cls) < 0 ? undefined : segmentOf(this.matching, cls, side)
      return segment === undefined ? undefined : joinKey(this.input.where.key, segment)
    })
    const [old, fresh, mine] = keys
    if (old === undefined || (fresh !== old && mine !== old && fresh !== mine)) return
    const side = fresh === mine ? 'both' : mine === old ? 'vanilla' : 'mine'
    const key = this.keyOf(cls)
    this.merge.record.change(
      side,
      'renamed',
      this.nodesOf(cls),
      key,
      side === 'vanilla' ? NEW : MINE,
      old,
    )
    const means = this.matching.means(MINE, this.matching.unit(MINE, cls))
    if (means?.by === 'identity') {
      for (const path of means.identity.parts) this.merge.ledger.cover(joinKey(key, path.join('/')))
    }
  }

  /** The key of a class: by mine, else new, else old; a renamed entry's is the one that the result has. */
  private keyOf(cls: number): string {
    const sides: readonly Side[] = [MINE, NEW, OLD]
    let side = sides.find((each) => this.matching.unit(each, cls) >= 0) ?? OLD
    if (this.matching.renamed.has(cls) && this.renamedByVanilla(cls)) side = NEW
    return joinKey(this.input.where.key, segmentOf(this.matching, cls, side))
  }

  private renamedByVanilla(cls: number): boolean {
    const [old, fresh, mine] = triple((side) =>
      this.matching.unit(side, cls) < 0 ? undefined : segmentOf(this.matching, cls, side),
    )
    return fresh !== undefined && old === mine
  }
}
