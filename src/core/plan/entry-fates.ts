import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
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

/**
 * Decides for each entry of one container whether the result has it, and what is to be told of those that
 * were added, removed, or dropped by one side and changed by the other.
 */
export class EntryFates {
  private readonly dormant: DormantFates
  private comments: Triple<Map<string, number>> | undefined

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
    const fates: EntryFate[] = []
    for (let cls = 0; cls < matching.length; cls++) {
      const isInBoth = matching.unit(NEW, cls) >= 0 && matching.unit(MINE, cls) >= 0
      const stretch = asked.get(cls)
      if (stretch !== undefined) fates.push(this.askedFate(cls, stretch))
      else if (matching.hasDormant(cls)) fates.push(this.dormant.fate(cls))
      else if (matching.held !== undefined && !matching.isVoid(cls) && this.isHeld(cls))
        fates.push(this.heldFate(cls, matching.held))
      else if (isInBoth) fates.push(MERGED)
      else fates.push(matching.isVoid(cls) ? OUT : this.fateOf(cls))
    }
    return fates
  }

  /** What becomes of an entry that one side has not. */
  private fateOf(cls: number): EntryFate {
    const nodes = this.entries.nodesOf(cls)
    if (this.entries.isComment(cls)) return this.commentFate(cls)
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
      return old < 0 ? OUT : { fate: 'out', told: [this.removed(other < 0 ? 'both' : own, cls)] }
    }
    if (fresh >= 0 && mine >= 0) return MERGED
    const fate = side === NEW ? 'vanilla-added' : 'mine-added'
    return { fate, told: old < 0 ? [this.added(own, cls, side)] : NOTHING_TOLD }
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
    if (fresh === undefined)
      return as(mine !== undefined && mine !== old ? 'kept-against-vanilla' : 'out')
    if (fresh === old) return OUT
    return { fate: 'out', told: this.lost(NEW, this.blockOf(NEW, cls)) }
  }

  /**
   * Whether mine has the comments of a block of new as often as new: they may stand directly above an entry here
   * and apart from it there, or in a longer block. Those that are put in count from then on.
   */
  private hasAlready(cls: number): boolean {
    const texts = this.blockOf(NEW, cls).map((comment) => this.textOf(NEW, comment))
    const counts = (this.comments ??= triple((side) => this.countComments(side)))
    const isThere = (text: string): boolean =>
      (counts[MINE].get(text) ?? 0) >= (counts[NEW].get(text) ?? 0)
    if (texts.every(isThere)) return true
    for (const text of texts) counts[MINE].set(text, (counts[MINE].get(text) ?? 0) + 1)
    return false
  }

  /** How often each comment stands among this container's entries, apart or directly above one. */
  private countComments(side: Side): Map<string, number> {
    const counts = new Map<string, number>()
    const list = this.entries.lists[side]
    for (let unit = 0; unit < (list?.length ?? 0); unit++) {
      if (list === undefined) break
      const texts = list.isComment(unit)
        ? this.blockTexts(side, list, unit)
        : this.ownTexts(side, unit)
      for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1)
    }
    return counts
  }

  /** The comments of a block; of mine's none where vanilla dropped the block, so that the result has it no more. */
  private blockTexts(side: Side, list: UnitList, unit: number): string[] {
    const { matching } = this.entries
    const cls = matching.classOf[side][unit] ?? -1
    const isDropped =
      side === MINE &&
      matching.unit(NEW, cls) < 0 &&
      this.unitForm(OLD, cls) === this.unitForm(MINE, cls)
    return isDropped ? [] : unitComments(list, unit).map((comment) => this.textOf(side, comment))
  }

  /**
   * The comments above an entry; of mine those that the result has: where mine left old's, they are
   * new's, and gone where vanilla removed the entry.
   */
  private ownTexts(side: Side, unit: number): string[] {
    const { matching } = this.entries
    const texts = (of: Side, at: number): string[] => {
      const list = this.entries.lists[of]
      if (list === undefined || at < 0) return []
      return ownComments(list, at).map((comment) => this.context.docs[of].commentText(comment))
    }
    const own = texts(side, unit)
    if (side !== MINE) return own
    const cls = matching.classOf[MINE][unit] ?? -1
    const fresh = matching.unit(NEW, cls)
    const isAsInOld = own.join('\n') === texts(OLD, matching.unit(OLD, cls)).join('\n')
    if (!isAsInOld) return own
    if (fresh >= 0) return texts(NEW, fresh)
    const nodes = this.entries.nodesOf(cls)
    const isLiveInBoth = nodes[OLD] >= 0 && nodes[MINE] >= 0
    return isLiveInBoth && this.isAsInOld(MINE, nodes) ? [] : own
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
