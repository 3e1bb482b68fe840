import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { sameContent } from '../formats/canonical.ts'
import type { DormantEntries } from '../match/dormant.ts'
import type { Changed } from '../match/links.ts'
import type { Stretch } from '../match/stretches.ts'
import { carryProblems } from './carry-problems.ts'
import {
  commentForm,
  commentsInside,
  ownComments,
  trailingComments,
  unitComments,
} from './comments.ts'
import type { PlanContext } from './context.ts'
import { DormantFates } from './dormant-fates.ts'
import type { Entries } from './entries.ts'
import type { EntryFate, Fate, Telling } from './plan.ts'
import type { ConflictKind, Nodes, ToldConflict } from './telling.ts'
import { NOTHING_TOLD } from './plan.ts'

const MERGED: EntryFate = { fate: 'merged', told: NOTHING_TOLD }
const OUT: EntryFate = { fate: 'out', told: NOTHING_TOLD }

/** How often each comment stands in new, in mine, and in the result as far as that is known. */
type CommentCounts = Record<'fresh' | 'mine' | 'result', Map<string, number>>

const count = (counts: ReadonlyMap<string, number>, text: string): number => counts.get(text) ?? 0

/**
 * Decides for each entry of one container whether the result has it, and what is to be told of those that
 * were added, removed, or dropped by one side and changed by the other.
 */
export class EntryFates {
  private readonly dormant: DormantFates
  private comments: CommentCounts | undefined
  private looseTexts: ReadonlySet<string> | undefined
  /** By class; of comments when those of all entries are known. */
  private readonly fates: EntryFate[] = []

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
    const asked = new Map<number, Stretch>()
    for (const stretch of matching.stretches) for (const cls of stretch) asked.set(cls, stretch)
    const comments: number[] = []
    for (let cls = 0; cls < matching.length; cls++) {
      const isInBoth = matching.unit(NEW, cls) >= 0 && matching.unit(MINE, cls) >= 0
      const stretch = asked.get(cls)
      if (stretch !== undefined) this.fates.push(this.askedFate(cls, stretch))
      else if (matching.hasDormant(cls)) this.fates.push(this.dormant.fate(cls))
      else if (matching.isVoid(cls)) this.fates.push(OUT)
      else if (matching.held !== undefined && this.isHeld(cls))
        this.fates.push(this.heldFate(cls, matching.held))
      else if (isInBoth) this.fates.push(MERGED)
      else if (this.entries.isComment(cls)) comments.push(this.fates.push(OUT) - 1)
      else this.fates.push(this.fateOf(cls))
    }
    // what came counts where it is asked whether a block of old is still there
    const isNew = (cls: number): boolean => matching.unit(OLD, cls) < 0
    for (const cls of comments.filter(isNew)) this.fates[cls] = this.commentFate(cls)
    for (const cls of comments) if (!isNew(cls)) this.fates[cls] = this.commentFate(cls)
    return this.fates
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
      const other = side === NEW ? mine : fresh
      const told = old < 0 ? [] : [this.removed(other < 0 ? 'both' : own, cls)]
      return this.heldOut(cls, side === NEW ? MINE : NEW, told)
    }
    if (fresh >= 0 && mine >= 0) return MERGED
    const fate = side === NEW ? 'vanilla-added' : 'mine-added'
    return { fate, told: old < 0 ? [this.added(own, cls, side)] : NOTHING_TOLD }
  }

  /** An entry that goes, as the other side's list has it: comments of which old has none beside such entries stay or are quoted. */
  private heldOut(cls: number, side: Changed, told: readonly Telling[]): EntryFate {
    const known = (this.looseTexts ??= this.textsOfLoose())
    const edited = (comments: readonly number[]): number[] =>
      comments.filter((comment) => !known.has(this.textOf(side, comment)))
    const isAbove = side === MINE && edited(this.commentsWith(side, cls).above).length > 0
    const lost = this.lost(side, edited(this.commentsOf(side, cls)))
    return { fate: isAbove ? 'only-comments' : 'out', told: [...told, ...lost] }
  }

  /** The comments that go with old's entries of which one side's list has the other's changes already. */
  private textsOfLoose(): ReadonlySet<string> {
    const { matching } = this.entries
    const classes = matching.classOf[OLD].filter((cls) => this.isHeld(cls))
    return new Set(
      classes.flatMap((cls) =>
        this.commentsOf(OLD, cls).map((comment) => this.textOf(OLD, comment)),
      ),
    )
  }

  /** Part of a stretch that both sides rewrote: it is as mine has it, and one question. */
  private askedFate(cls: number, stretch: Stretch): EntryFate {
    const { matching } = this.entries
    const [first] = stretch
    const told = cls === first ? [this.question([...stretch])] : NOTHING_TOLD
    return { fate: matching.unit(MINE, cls) >= 0 ? 'kept-against-vanilla' : 'out', told }
  }

  private question(classes: readonly number[]): Telling {
    const { matching } = this.entries
    const ordered = triple((side) =>
      classes
        .filter((cls) => matching.unit(side, cls) >= 0)
        .sort((a, b) => matching.unit(side, a) - matching.unit(side, b)),
    )
    const named = ordered[MINE][0] ?? ordered[OLD][0] ?? ordered[NEW][0] ?? -1
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

  private addedFate(cls: number, byMine: boolean): EntryFate {
    const nodes = this.entries.nodesOf(cls)
    const { docs, options } = this.context
    if (options.everyDifference) {
      const kind = byMine ? 'gone-in-vanilla' : 'gone-in-mine'
      const told = [this.conflict(kind, cls)]
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
      return { fate: 'out', told: [this.droppedByBoth(cls, old), ...this.perhapsRenamed(cls)] }
    if (fresh < 0) {
      if (!this.isAsInOld(MINE, nodes)) {
        const told = [this.conflict('gone-in-vanilla', cls, { perhaps: this.perhapsNow(cls) })]
        return { fate: 'kept-against-vanilla', told }
      }
      const edited = this.editedComments(cls)
      const isAbove = this.hasEditedAbove(cls)
      const fate = isAbove ? 'only-comments' : 'out'
      return { fate, told: [this.removed('vanilla', cls), ...edited] }
    }
    if (this.isAsInOld(NEW, nodes))
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

  /** An entry that is in no document but old: what may be the same under another name stands as it came. */
  private perhapsRenamed(cls: number): Telling[] {
    const { docs } = this.context
    return (this.entries.matching.perhaps.get(cls) ?? []).flatMap((now) => {
      const nodes = this.entries.nodesOf(now)
      const side = nodes[NEW] >= 0 ? NEW : MINE
      // what is in comments on both sides now holds for nobody
      if (nodes[side] < 0) return []
      const [was, is] = [this.entries.keyOf(cls), this.entries.keyOf(now)]
      const problem = carryProblems.perhapsRenamed(docs[side], nodes[side], was, is, side)
      return [{ tell: 'problem', problem }]
    })
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

  private removed(side: 'vanilla' | 'mine' | 'both', cls: number): Telling {
    const nodes = this.entries.nodesOf(cls)
    const key = this.entries.keyOf(cls)
    return { tell: 'change', side, kind: 'removed', key, nodes, from: undefined }
  }

  /** The key of what an entry that a side dropped may be there. */
  private perhapsNow(cls: number): string | undefined {
    const [now] = this.entries.matching.perhaps.get(cls) ?? []
    if (now !== undefined) return this.entries.keyOf(now)
    return this.context.options.moved.namesakeOf(this.entries.nodesOf(cls)[OLD])
  }

  private isAsInOld(side: Side, nodes: Nodes): boolean {
    const { docs } = this.context
    return sameContent(docs[OLD], nodes[OLD], docs[side], nodes[side])
  }

  // Comments

  /** A comment of its own that one side removed: gone, unless mine had rewritten it. */
  private commentFate(cls: number): EntryFate {
    const [old, fresh, mine] = triple((side) => this.unitForm(side, cls))
    const as = (fate: Fate): EntryFate => ({ fate, told: NOTHING_TOLD })
    if (old === undefined && mine !== undefined) return as('mine-added')
    if (old === undefined) return as(this.hasAlready(cls) ? 'out' : 'vanilla-added')
    if (fresh === undefined) {
      const isKept = (mine !== undefined && mine !== old) || this.isMissed(MINE, cls)
      return as(isKept ? 'kept-against-vanilla' : 'out')
    }
    if (this.isMissed(NEW, cls)) return as('vanilla-added')
    if (fresh === old) return OUT
    return { fate: 'out', told: this.lost(NEW, this.blockOf(NEW, cls)) }
  }

  /**
   * Whether mine has the comments of a block of new as often as new: they may stand directly above an entry here
   * and apart from it there, or in a longer block. Those that are put in count from then on.
   */
  private hasAlready(cls: number): boolean {
    const { fresh, result } = this.counts
    const texts = this.textsOf(NEW, cls)
    if (texts.every((text) => count(result, text) >= count(fresh, text))) return true
    this.putIn(texts)
    return false
  }

  /**
   * Whether a block that one side alone has as a block stands in the other as well, above an entry that goes: then
   * nobody removed it. Those that are put in count from then on.
   */
  private isMissed(side: Changed, cls: number): boolean {
    const { fresh, mine, result } = this.counts
    const texts = this.textsOf(side, cls)
    const isInBoth = texts.every((text) => count(side === NEW ? mine : fresh, text) > 0)
    const isLess = (text: string): boolean =>
      count(result, text) < Math.min(count(fresh, text), count(mine, text))
    if (!isInBoth || !texts.some(isLess)) return false
    this.putIn(texts)
    return true
  }

  private get counts(): CommentCounts {
    return (this.comments ??= {
      fresh: this.counted([(unit) => this.textsAt(NEW, unit), NEW]),
      mine: this.counted([(unit) => this.textsAt(MINE, unit), MINE]),
      result: this.counted(
        [(unit) => this.textsLeft(unit), MINE],
        [(unit) => this.textsCome(unit), NEW],
      ),
    })
  }

  private putIn(texts: readonly string[]): void {
    const { result } = this.counts
    for (const text of texts) result.set(text, count(result, text) + 1)
  }

  private textsOf(side: Side, cls: number): string[] {
    return this.blockOf(side, cls).map((comment) => this.textOf(side, comment))
  }

  /** How often each comment stands among this container's entries, apart or directly above one. */
  private counted(
    ...units: readonly (readonly [textsOf: (unit: number) => readonly string[], of: Side])[]
  ): Map<string, number> {
    const counts = new Map<string, number>()
    for (const [textsOf, side] of units) {
      const length = this.entries.lists[side]?.length ?? 0
      for (let unit = 0; unit < length; unit++)
        for (const text of textsOf(unit)) counts.set(text, count(counts, text) + 1)
    }
    return counts
  }

  /** The comments above an entry that new alone brings into the result. */
  private textsCome(unit: number): readonly string[] {
    const cls = this.entries.matching.classOf[NEW][unit] ?? -1
    const comes = this.fates[cls]?.fate === 'vanilla-added' && !this.entries.isComment(cls)
    return comes ? this.textsAt(NEW, unit) : []
  }

  /** Of the comments at a unit of mine those that the result has: what one side left alone is as the other has it. */
  private textsLeft(unit: number): readonly string[] {
    const { matching } = this.entries
    const cls = matching.classOf[MINE][unit] ?? -1
    const own = this.textsAt(MINE, unit)
    const isEntry = !this.entries.isComment(cls)
    if (isEntry && this.fates[cls]?.fate === 'out') return []
    const [atOld, atNew] = [matching.unit(OLD, cls), matching.unit(NEW, cls)]
    const old = this.textsAt(OLD, atOld)
    if (atNew < 0) return isEntry || own.join('\n') !== old.join('\n') ? own : []
    const fresh = this.textsAt(NEW, atNew)
    return [
      ...own.filter((text) => fresh.includes(text) || !old.includes(text)),
      ...fresh.filter((text) => !own.includes(text) && !old.includes(text)),
    ]
  }

  /** The comments that a unit is, or those directly above it; none where there is no unit. */
  private textsAt(side: Side, unit: number): string[] {
    const list = this.entries.lists[side]
    if (list === undefined || unit < 0) return []
    const comments = list.isComment(unit) ? unitComments(list, unit) : ownComments(list, unit)
    return comments.map((comment) => this.textOf(side, comment))
  }

  private unitForm(side: Side, cls: number): string | undefined {
    const comments = this.blockOf(side, cls)
    return comments.length === 0 ? undefined : commentForm(this.context.docs[side], comments)
  }

  /** The comments of a block, or of an entry in comments. */
  private blockOf(side: Side, cls: number): number[] {
    const list = this.entries.lists[side]
    const unit = this.entries.matching.unit(side, cls)
    return list === undefined || unit < 0 ? [] : unitComments(list, unit)
  }

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

  /** Of the comments that go with an entry those that old has not with it. */
  private rewritten(side: Side, cls: number, comments: readonly number[]): number[] {
    if (comments.length === 0) return []
    const known = new Set(this.commentsOf(OLD, cls).map((comment) => this.textOf(OLD, comment)))
    return comments.filter((comment) => !known.has(this.textOf(side, comment)))
  }

  private textOf(side: Side, comment: number): string {
    return this.context.docs[side].commentText(comment)
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
    const doc = this.context.docs[side]
    return comments.map((comment) => ({
      tell: 'loss',
      problem: carryProblems.commentQuoted(doc, comment, side),
    }))
  }
}
