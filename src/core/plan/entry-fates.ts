import { gather } from '../document/gather.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { canonical, sameContent } from '../formats/canonical.ts'
import type { DormantEntries } from '../match/dormant.ts'
import type { Value } from '../likeness/value.ts'
import { weightOf } from '../likeness/weight.ts'
import type { Changed } from '../match/links.ts'
import { otherSide } from '../match/links.ts'
import type { Stretch } from '../match/stretches.ts'
import { carryProblems } from './carry-problems.ts'
import { CommentFates } from './comment-fates.ts'
import { commentsInside, ownComments, saidBy, sayingElse, trailingComments } from './comments.ts'
import type { PlanContext } from './context.ts'
import { DormantFates } from './dormant-fates.ts'
import type { Entries } from './entries.ts'
import type { EntryFate, Telling } from './plan.ts'
import type { ConflictKind, ToldConflict } from './telling.ts'
import { NOTHING_TOLD } from './plan.ts'
import { quoted } from './quoted-comments.ts'

const MERGED: EntryFate = { fate: 'merged', told: NOTHING_TOLD }
/** What says less than a text stands elsewhere by chance. */
const LEAST_SAID = 2
const OUT: EntryFate = { fate: 'out', told: NOTHING_TOLD }

/**
 * Decides for each entry of one container whether the result has it, and what is to be told of those that
 * were added, removed, or dropped by one side and changed by the other.
 */
export class EntryFates {
  private readonly dormant: DormantFates
  private insideAdded: ReadonlyMap<Value, number> | undefined
  private looseTexts: ReadonlySet<string> | undefined
  private looseEquals: Map<string, number[]> | undefined

  constructor(
    private readonly context: PlanContext,
    private readonly entries: Entries,
    dormant: DormantEntries | undefined,
  ) {
    this.dormant = new DormantFates(context, entries, dormant)
  }

  /** The fates of all classes, in their order. */
  all(): EntryFate[] {
    const { matching } = this.entries
    // without an old nobody has the other's changes, and every difference is a question
    const held = this.context.options.everyDifference ? undefined : matching.held
    const asked = new Map<number, Stretch>()
    for (const stretch of matching.stretches) for (const cls of stretch) asked.set(cls, stretch)
    const comments: number[] = []
    const fates: EntryFate[] = []
    for (let cls = 0; cls < matching.length; cls++) {
      const isInBoth = matching.unit(NEW, cls) >= 0 && matching.unit(MINE, cls) >= 0
      const stretch = asked.get(cls)
      if (stretch !== undefined) fates.push(this.askedFate(cls, stretch))
      else if (matching.hasDormant(cls)) fates.push(this.dormantFate(cls))
      else if (matching.isVoid(cls)) fates.push(OUT)
      else if (held !== undefined && this.isHeld(cls)) fates.push(this.heldFate(cls, held))
      else if (isInBoth) fates.push(MERGED)
      else if (this.entries.isComment(cls)) comments.push(fates.push(OUT) - 1)
      else fates.push(this.fateOf(cls))
    }
    if (comments.length > 0) new CommentFates(this.context, this.entries, fates).decide(comments)
    return fates
  }

  /** What one side has in comments and the other no more may be live under another name. */
  private dormantFate(cls: number): EntryFate {
    const { matching } = this.entries
    const { told, ...fate } = this.dormant.fate(cls)
    const isGone = ([NEW, MINE] as const).some((side) => matching.unit(side, cls) < 0)
    return { ...fate, told: isGone ? [...told, ...this.perhapsElsewhere(cls)] : told }
  }

  /** What becomes of an entry that one side has not. */
  private fateOf(cls: number): EntryFate {
    const nodes = this.entries.nodesOf(cls)
    const tied = this.context.tied.keysOf(nodes)
    if (tied !== undefined) return this.tiedFate(cls, tied)
    return nodes[OLD] < 0 ? this.addedFate(cls, nodes[MINE] >= 0) : this.removedFate(cls)
  }

  /** Whether an entry is one of those of which one side's list has the other's changes already. */
  private isHeld(cls: number): boolean {
    return !this.entries.isComment(cls) && this.entries.matching.isLoose(cls)
  }

  /** The result has what the side has that holds the other's changes. */
  private heldFate(cls: number, side: Changed): EntryFate {
    const nodes = this.entries.nodesOf(cls)
    const [old, fresh, mine] = nodes
    const own = side === NEW ? 'vanilla' : 'mine'
    if (nodes[side] < 0) {
      const other = otherSide(side)
      const told = old < 0 ? [] : [this.heldRemoval(cls, other)]
      return this.heldOut(cls, other, told)
    }
    if (fresh >= 0 && mine >= 0) return MERGED
    const fate = side === NEW ? 'vanilla-added' : 'mine-added'
    return { fate, told: old < 0 ? [this.added(own, cls, side)] : NOTHING_TOLD }
  }

  /** Old has more of equal entries than the side that holds the changes: of these one side alone, or both, dropped each. */
  private heldRemoval(cls: number, other: Changed): Telling {
    const { docs } = this.context
    const nodes = this.entries.nodesOf(cls)
    const own = other === MINE ? 'vanilla' : 'mine'
    if (nodes[other] >= 0) return this.removed(own, cls)
    const equal = (this.looseEquals ??= this.equalsIn(other)).get(canonical(docs[OLD], nodes[OLD]))
    const node = equal?.shift()
    if (node === undefined) return this.removed('both', cls)
    const three = triple((side) => (side === other ? node : nodes[side]))
    return this.removed(own, cls, three)
  }

  /** The entries that a side alone has of those of which the other's list has the changes, by what they hold. */
  private equalsIn(side: Changed): Map<string, number[]> {
    const { matching } = this.entries
    const found = new Map<string, number[]>()
    for (const cls of matching.classOf[side]) {
      const nodes = this.entries.nodesOf(cls)
      const isAlone = nodes.every((node, each) => (each === side) === node >= 0)
      if (isAlone && this.isHeld(cls))
        gather(found, canonical(this.context.docs[side], nodes[side]), nodes[side])
    }
    return found
  }

  /** An entry that goes, as the other side's list has it: comments of which old has none beside such entries stay or are quoted. */
  private heldOut(cls: number, side: Changed, told: readonly Telling[]): EntryFate {
    const known = (this.looseTexts ??= this.textsOfLoose())
    const edited = (comments: readonly number[]): number[] =>
      sayingElse(this.context.docs[side], comments, known)
    const isAbove = side === MINE && edited(this.commentsWith(side, cls).above).length > 0
    const lost = this.lost(side, edited(this.commentsOf(side, cls)))
    return { fate: isAbove ? 'only-comments' : 'out', told: [...told, ...lost] }
  }

  /** The comments that go with old's entries of which one side's list has the other's changes already. */
  private textsOfLoose(): ReadonlySet<string> {
    const { matching } = this.entries
    const classes = matching.classOf[OLD].filter((cls) => this.isHeld(cls))
    const comments = classes.flatMap((cls) => this.commentsOf(OLD, cls))
    return saidBy(this.context.docs[OLD], comments)
  }

  /** Part of a stretch that both sides rewrote: it is as mine has it, and one question. */
  private askedFate(cls: number, stretch: Stretch): EntryFate {
    const { matching } = this.entries
    const [first] = stretch
    const told =
      cls === first ? [this.question([...stretch]), ...this.lostOfStretch(stretch)] : NOTHING_TOLD
    return { fate: matching.unit(MINE, cls) >= 0 ? 'kept-against-vanilla' : 'out', told }
  }

  private question(classes: readonly number[]): Telling {
    const { matching } = this.entries
    const ordered = triple((side) =>
      classes
        .filter((cls) => matching.unit(side, cls) >= 0)
        .sort((a, b) => matching.unit(side, a) - matching.unit(side, b)),
    )
    const named = surely(ordered[MINE][0] ?? ordered[OLD][0] ?? ordered[NEW][0])
    const nodes = triple((side) => ordered[side].map((cls) => matching.node(side, cls)))
    return { tell: 'stretch', key: this.entries.keyOf(named), nodes }
  }

  /** Part of a question about several keys: it is as mine has it. */
  private tiedFate(cls: number, tied: string[]): EntryFate {
    const [old, fresh, mine] = this.entries.nodesOf(cls)
    const kind = old < 0 ? 'two-new' : fresh < 0 ? 'gone-in-vanilla' : 'gone-in-mine'
    const conflict = this.conflict(kind, cls, { tied })
    tied.push(conflict.key)
    return { fate: mine >= 0 ? 'kept-against-vanilla' : 'out', told: [conflict] }
  }

  /** Whether what stands under its number may be of another entry than in old. */
  private isShifted(cls: number): boolean {
    return this.entries.matching.shifted.has(cls)
  }

  private addedFate(cls: number, byMine: boolean): EntryFate {
    const nodes = this.entries.nodesOf(cls)
    const { docs, options } = this.context
    if (options.everyDifference) {
      const kind = byMine ? 'gone-in-vanilla' : 'gone-in-mine'
      const told = [this.conflict(kind, cls)]
      return { fate: byMine ? 'kept-against-vanilla' : 'out', told }
    }
    if (this.isShifted(cls)) {
      const kind = byMine ? 'gone-in-vanilla' : 'gone-in-mine'
      const told = [this.conflict(kind, cls, { perhaps: this.perhapsNow(cls) })]
      return { fate: byMine ? 'kept-against-vanilla' : 'out', told }
    }
    const side = byMine ? MINE : NEW
    const fate = byMine ? 'mine-added' : 'vanilla-added'
    if (options.moved.hasArrived(side, docs[side], nodes[side])) return { fate, told: NOTHING_TOLD }
    const defaults = byMine ? this.dormant.changedDefault(cls) : []
    return { fate, told: [...defaults, this.added(byMine ? 'mine' : 'vanilla', cls, side)] }
  }

  private removedFate(cls: number): EntryFate {
    const nodes = this.entries.nodesOf(cls)
    const [old, fresh, mine] = nodes
    if (this.context.options.moved.hasLeft(old)) return this.leftFate(cls)
    if (fresh < 0 && mine < 0)
      return { fate: 'out', told: [this.droppedByBoth(cls, old), ...this.perhapsElsewhere(cls)] }
    if (fresh < 0) {
      if (this.isShifted(cls) || !this.isAsInOld(MINE, cls)) {
        const told = [this.conflict('gone-in-vanilla', cls, { perhaps: this.perhapsNow(cls) })]
        return { fate: 'kept-against-vanilla', told }
      }
      const edited = this.editedComments(cls)
      const isAbove = this.hasEditedAbove(cls)
      const fate = isAbove ? 'only-comments' : 'out'
      return { fate, told: [this.removed('vanilla', cls), ...edited] }
    }
    if (!this.isShifted(cls) && this.isAsInOld(NEW, cls))
      return { fate: 'out', told: [this.removed('mine', cls), ...this.lostWith(cls)] }
    const conflict = this.conflict('gone-in-mine', cls, {
      perhaps: this.perhapsNow(cls),
    })
    return { fate: 'out', told: [conflict, ...this.lostWith(cls)] }
  }

  /** An entry that a side moved stands elsewhere; the other side's comments above it and behind it did not go there. */
  private leftFate(cls: number): EntryFate {
    const [, fresh, mine] = this.entries.nodesOf(cls)
    if (fresh < 0 && mine < 0) return OUT
    const side = fresh < 0 ? MINE : NEW
    const isAbove = side === MINE && this.hasEditedAbove(cls)
    const { above, behind } = this.commentsWith(side, cls)
    const lost = this.rewritten(side, cls, isAbove ? behind : [...above, ...behind])
    return { fate: isAbove ? 'only-comments' : 'out', told: this.lost(side, lost) }
  }

  // What is told

  /** What one side dropped and the other moved to another container and changed stands there, and is asked. */
  private droppedByBoth(cls: number, old: number): Telling {
    const now = this.context.options.moved.movedTo(old, this.context.docs)
    if (now === undefined) return this.removed('both', cls)
    const kind = now.by === 'vanilla' ? 'gone-in-mine' : 'gone-in-vanilla'
    return { ...this.conflict(kind, cls, { perhaps: now.key }), nodes: now.nodes }
  }

  /** An entry that is in no document but old, where something may be the same elsewhere: that stands as it came. */
  private perhapsElsewhere(cls: number): Telling[] {
    const { perhaps, shifted } = this.entries.matching
    const now = shifted.get(cls)
    if (now !== undefined) return [this.renumbered(cls, now)]
    const alike = perhaps.get(cls) ?? []
    if (alike.length === 0) return this.standsInside(cls)
    return alike.flatMap((other) => this.beside(cls, other, carryProblems.perhapsRenamed))
  }

  /** What one side dropped where the other has put the same into an entry of its own: it stands there. */
  private standsInside(cls: number): Telling[] {
    const { docs, options } = this.context
    const old = this.entries.nodesOf(cls)[OLD]
    if (old < 0) return []
    const value = options.identities.known.values.of(docs[OLD], old)
    if (weightOf(value) < LEAST_SAID) return []
    this.insideAdded ??= this.valuesInsideAdded()
    const now = this.insideAdded.get(value)
    return now === undefined ? [] : this.beside(cls, now, carryProblems.standsInside)
  }

  /** That an entry was dropped, and what one of a side has to do with it. */
  private beside(
    cls: number,
    now: number,
    problemOf: typeof carryProblems.perhapsRenamed,
  ): Telling[] {
    const nodes = this.entries.nodesOf(now)
    const side = nodes[NEW] >= 0 ? NEW : MINE
    // what is in comments on both sides now holds for nobody
    if (nodes[side] < 0) return []
    const [was, is] = [this.entries.keyOf(cls), this.entries.keyOf(now)]
    const doc = this.context.docs[side]
    return [{ tell: 'problem', problem: problemOf(doc, nodes[side], was, is, side) }]
  }

  /** What stands inside of entries that one side alone has put in, and the class of the entry. */
  private valuesInsideAdded(): ReadonlyMap<Value, number> {
    const { docs, options } = this.context
    const { values } = options.identities.known
    const found = new Map<Value, number>()
    for (const side of [NEW, MINE] as const)
      for (const cls of this.entries.matching.classOf[side]) {
        const nodes = this.entries.nodesOf(cls)
        const isAdded = nodes[OLD] < 0 && nodes[otherSide(side)] < 0 && nodes[side] >= 0
        if (!isAdded) continue
        const waiting = [...values.of(docs[side], nodes[side]).parts]
        for (let part = waiting.pop(); part !== undefined; part = waiting.pop()) {
          found.set(part, cls)
          waiting.push(...part.parts)
        }
      }
    return found
  }

  /** What one side dropped where the other has it under another number. */
  private renumbered(cls: number, now: number): Telling {
    const { docs } = this.context
    const nodes = this.entries.nodesOf(now)
    const side = nodes[NEW] >= 0 ? NEW : MINE
    const [was, is] = [this.entries.keyOf(cls), this.entries.keyOf(now)]
    const problem = carryProblems.renumbered(docs[side], nodes[side], was, is, side)
    return { tell: 'problem', problem }
  }

  private conflict(
    kind: ConflictKind,
    cls: number,
    more: Pick<ToldConflict, 'perhaps' | 'tied'> = {},
  ): ToldConflict {
    const nodes = this.entries.nodesOf(cls)
    return { tell: 'conflict', kind, key: this.entries.keyOf(cls), nodes, ...more }
  }

  private added(side: 'vanilla' | 'mine', cls: number, from: Side): Telling {
    const nodes = this.entries.nodesOf(cls)
    return { tell: 'change', side, kind: 'added', key: this.entries.keyOf(cls), nodes, from }
  }

  private removed(
    side: 'vanilla' | 'mine' | 'both',
    cls: number,
    nodes = this.entries.nodesOf(cls),
  ): Telling {
    const key = this.entries.keyOf(cls)
    return { tell: 'change', side, kind: 'removed', key, nodes, from: undefined }
  }

  /** The key of what an entry that a side dropped, or has under another number, may be there. */
  private perhapsNow(cls: number): string | undefined {
    const { perhaps, shifted } = this.entries.matching
    const now = perhaps.get(cls)?.[0] ?? shifted.get(cls)
    if (now !== undefined) return this.entries.keyOf(now)
    const [old] = this.entries.nodesOf(cls)
    return old < 0 ? undefined : this.context.options.moved.namesakeOf(old)
  }

  /** Whether a side left an entry as it was; another number given to all of them is no change of it. */
  private isAsInOld(side: Side, cls: number): boolean {
    const { docs } = this.context
    const nodes = this.entries.nodesOf(cls)
    return (
      sameContent(docs[OLD], nodes[OLD], docs[side], nodes[side]) ||
      this.entries.matching.isRenumbered(side, cls)
    )
  }

  // Comments

  /** Vanilla removed an entry: comments of it that mine had edited are told; those above it stay. */
  private editedComments(cls: number): Telling[] {
    return this.lost(MINE, this.rewritten(MINE, cls, this.commentsOf(MINE, cls)))
  }

  /** Whether mine had edited the comments above an entry. */
  private hasEditedAbove(cls: number): boolean {
    return this.rewritten(MINE, cls, this.commentsWith(MINE, cls).above).length > 0
  }

  /** Mine removed an entry: what vanilla had written anew in its comments is quoted. */
  private lostWith(cls: number): Telling[] {
    return this.lost(NEW, this.rewritten(NEW, cls, this.commentsOf(NEW, cls)))
  }

  /** Mine stands for a stretch: what vanilla has written anew in its comments is quoted. */
  private lostOfStretch(stretch: Stretch): Telling[] {
    const { docs } = this.context
    const [old, fresh, mine] = triple((side) =>
      [...stretch].flatMap((cls) => this.commentsOf(side, cls)),
    )
    if (fresh.length === 0) return []
    const known = new Set([...saidBy(docs[OLD], old), ...saidBy(docs[MINE], mine)])
    return this.lost(NEW, sayingElse(docs[NEW], fresh, known))
  }

  /** Of the comments that go with an entry those that old has not with it. */
  private rewritten(side: Side, cls: number, comments: readonly number[]): number[] {
    if (comments.length === 0) return []
    const { docs } = this.context
    return sayingElse(docs[side], comments, saidBy(docs[OLD], this.commentsOf(OLD, cls)))
  }

  /** All comments that go with an entry: above it, in it and behind it. */
  private commentsOf(side: Side, cls: number): number[] {
    const { above, inside, behind } = this.commentsWith(side, cls)
    return [...above, ...inside, ...behind]
  }

  private commentsWith(side: Side, cls: number): Record<'above' | 'inside' | 'behind', number[]> {
    const list = this.entries.lists[side]
    const unit = this.entries.matching.unit(side, cls)
    if (list === undefined || unit < 0) return { above: [], inside: [], behind: [] }
    return {
      above: ownComments(list, unit),
      inside: commentsInside(this.context.docs[side], list.node(unit)),
      behind: trailingComments(list, unit),
    }
  }

  private lost(side: Side, comments: readonly number[]): Telling[] {
    return quoted(this.context.docs[side], side, comments)
  }
}
