import { sameContent } from '../formats/canonical.ts'
import type { Side, Triple } from '../document/sides.ts'
import type { Changed as ChangedSide } from '../match/links.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Stretch } from '../match/stretches.ts'
import type { CommentedEntry } from './dormant.ts'
import { CommentedOut } from './dormant.ts'
import { commentsInside, ownComments, trailingComments } from './comments.ts'
import type { Entries } from './entries.ts'
import type { MergeContext } from './context.ts'
import { carryProblems } from './carry-problems.ts'
import type { Nodes } from '../report/recorder.ts'

/** What becomes of an entry. */
export type Fate = 'merged' | 'vanilla-added' | 'mine-added' | 'kept-against-vanilla' | 'out'

/**
 * Decides for each entry of one container whether the result has it, and tells the ledger of what was
 * added, removed, or dropped by one side and changed by the other.
 */
export class Fates {
  private readonly fates: Fate[] = []
  /** Removed entries whose comments mine had edited: those are written where the entry stood. */
  private readonly leftComments = new Set<number>()
  /** What stands commented out, where it was asked for. */
  private readonly commentedOut: CommentedOut[] = []
  private comments: Triple<Map<string, number>> | undefined

  constructor(
    private readonly merge: MergeContext,
    private readonly entries: Entries,
  ) {
    const { matching } = entries
    const asked = new Map<number, Stretch>()
    for (const stretch of matching.stretches) for (const cls of stretch) asked.set(cls, stretch)
    for (let cls = 0; cls < matching.length; cls++) {
      const isInBoth = matching.unit(NEW, cls) >= 0 && matching.unit(MINE, cls) >= 0
      const stretch = asked.get(cls)
      if (stretch !== undefined) this.fates.push(this.askedFate(cls, stretch))
      else if (matching.held !== undefined && !matching.isVoid(cls) && this.isHeld(cls))
        this.fates.push(this.heldFate(cls, matching.held))
      else if (isInBoth) this.fates.push('merged')
      else this.fates.push(matching.isVoid(cls) ? 'out' : this.fateOf(cls))
    }
  }

  of(cls: number): Fate {
    return this.fates[cls] ?? 'out'
  }

  /** Whether only comments of an entry are in the result. */
  leavesComments(cls: number): boolean {
    return this.leftComments.has(cls)
  }

  /** Whether anything of a class is in the result. */
  isInResult(cls: number): boolean {
    return this.of(cls) !== 'out' || this.leavesComments(cls)
  }

  /** What becomes of an entry that one side has not. */
  private fateOf(cls: number): Fate {
    const [old, fresh, mine] = this.entries.nodesOf(cls)
    if (this.entries.isComment(cls)) return this.commentFate(cls)
    const tied = this.merge.together.keysOf([old, fresh, mine])
    if (tied !== undefined) return this.tiedFate(cls, tied)
    if (old < 0) return this.addedFate(cls, mine >= 0)
    return this.removedFate(cls)
  }

  /** Whether an entry is one of those of which one side's list has the other's changes already. */
  private isHeld(cls: number): boolean {
    return !this.entries.isComment(cls) && this.entries.matching.isLoose(cls)
  }

  /** The result has what the side has that holds the other's changes. */
  private heldFate(cls: number, side: ChangedSide): Fate {
    const nodes = this.entries.nodesOf(cls)
    const [old, fresh, mine] = nodes
    const own = side === NEW ? 'vanilla' : 'mine'
    if (nodes[side] < 0) {
      const other = side === NEW ? mine : fresh
      if (old >= 0) this.removedRow(other < 0 ? 'both' : own, cls)
      return 'out'
    }
    if (fresh >= 0 && mine >= 0) return 'merged'
    if (old < 0)
      this.merge.record.change({ side: own, kind: 'added' }, nodes, this.entries.keyOf(cls), side)
    return side === NEW ? 'vanilla-added' : 'mine-added'
  }

  /** Part of a stretch that both sides rewrote: it is as mine has it, and one question. */
  private askedFate(cls: number, stretch: Stretch): Fate {
    const { matching } = this.entries
    const [first] = stretch
    if (cls === first) this.ask([...stretch])
    return matching.unit(MINE, cls) >= 0 ? 'kept-against-vanilla' : 'out'
  }

  private ask(classes: readonly number[]): void {
    const { matching } = this.entries
    const ordered = triple((side) =>
      classes
        .filter((cls) => matching.unit(side, cls) >= 0)
        .sort((a, b) => matching.unit(side, a) - matching.unit(side, b)),
    )
    const named = ordered[MINE][0] ?? ordered[OLD][0] ?? ordered[NEW][0] ?? -1
    this.merge.record.stretch(
      triple((side) => ordered[side].map((cls) => matching.node(side, cls))),
      this.entries.keyOf(named),
    )
  }

  /** Part of a question about several keys: it is as mine has it. */
  private tiedFate(cls: number, tied: string[]): Fate {
    const nodes = this.entries.nodesOf(cls)
    const [old, fresh, mine] = nodes
    const kind = old < 0 ? 'two-new' : fresh < 0 ? 'gone-in-vanilla' : 'gone-in-mine'
    this.merge.record.conflict(kind, nodes, this.entries.keyOf(cls), { tied })
    return mine >= 0 ? 'kept-against-vanilla' : 'out'
  }

  private addedFate(cls: number, byMine: boolean): Fate {
    const nodes = this.entries.nodesOf(cls)
    if (this.merge.options.everyDifference) {
      const kind = byMine ? 'gone-in-vanilla' : 'gone-in-mine'
      this.merge.record.conflict(kind, nodes, this.entries.keyOf(cls))
      return byMine ? 'kept-against-vanilla' : 'out'
    }
    const side = byMine ? MINE : NEW
    const { docs, options } = this.merge
    if (options.moved.hasArrived(side, docs[side], nodes[side]))
      return byMine ? 'mine-added' : 'vanilla-added'
    if (byMine) this.tellDefault(cls)
    this.merge.record.change(
      { side: byMine ? 'mine' : 'vanilla', kind: 'added' },
      nodes,
      this.entries.keyOf(cls),
      side,
    )
    return byMine ? 'mine-added' : 'vanilla-added'
  }

  private removedFate(cls: number): Fate {
    const nodes = this.entries.nodesOf(cls)
    const [old, fresh, mine] = nodes
    if (this.merge.options.moved.hasLeft(old)) return 'out'
    if (fresh < 0 && mine < 0) this.removedRow('both', cls)
    else if (fresh < 0) {
      if (!this.isAsInOld(MINE, nodes)) {
        const perhaps = this.perhapsNow(cls)
        this.merge.record.conflict('gone-in-vanilla', nodes, this.entries.keyOf(cls), { perhaps })
        return 'kept-against-vanilla'
      }
      this.removedRow('vanilla', cls)
      this.keepEditedComments(cls)
    } else if (this.isAsInOld(NEW, nodes)) {
      this.removedRow('mine', cls)
      this.noteLost(cls, NEW)
    } else {
      this.merge.record.conflict('gone-in-mine', nodes, this.entries.keyOf(cls), {
        commentedOut: this.findCommentedOut(MINE, cls, OLD)?.comment ?? -1,
        perhaps: this.perhapsNow(cls),
      })
      this.noteLost(cls, NEW)
    }
    return 'out'
  }

  /** The key of what an entry that a side dropped may be there. */
  private perhapsNow(cls: number): string | undefined {
    const now = this.entries.matching.perhaps.get(cls)
    return now === undefined ? undefined : this.entries.keyOf(now)
  }

  /** Where an entry that is live on one side stands commented out on another. */
  private findCommentedOut(side: Side, cls: number, live: Side): CommentedEntry | undefined {
    const { entries, merge } = this
    const units = entries.lists[side]
    if (units === undefined) return undefined
    const means = entries.matching.means(live, entries.matching.unit(live, cls))
    const identity = means?.by === 'identity' ? means.identity : undefined
    const index = (this.commentedOut[side] ??= new CommentedOut(merge.docs[side], units))
    return index.find({ doc: merge.docs[live], node: entries.nodesOf(cls)[live], identity })
  }

  /**
   * Mine made live what old ships commented out: where vanilla has changed that comment or dropped it,
   * it is told, for mine's value may have been tuned to it.
   */
  private tellDefault(cls: number): void {
    const { docs, ledger, writer } = this.merge
    if (writer.isMuted) return
    const old = this.findCommentedOut(OLD, cls, MINE)
    if (old === undefined) return
    const fresh = this.findCommentedOut(NEW, cls, MINE)
    if (fresh !== undefined && sameContent(old.doc, old.node, fresh.doc, fresh.node)) return
    ledger.problem(carryProblems.defaultChanged(docs, this.entries.keyOf(cls), old, fresh))
  }

  private removedRow(side: 'vanilla' | 'mine' | 'both', cls: number): void {
    this.merge.record.change(
      { side, kind: 'removed' },
      this.entries.nodesOf(cls),
      this.entries.keyOf(cls),
      undefined,
    )
  }

  private isAsInOld(side: Side, nodes: Nodes): boolean {
    const { docs } = this.merge
    return sameContent(docs[OLD], nodes[OLD], docs[side], nodes[side])
  }

  /** A comment of its own that one side removed: gone, unless mine had rewritten it. */
  private commentFate(cls: number): Fate {
    const [old, fresh, mine] = triple((side) => this.unitForm(side, cls))
    if (old === undefined && mine !== undefined) return 'mine-added'
    if (old === undefined) return this.hasAlready(fresh ?? '') ? 'out' : 'vanilla-added'
    if (fresh === undefined)
      return mine !== undefined && mine !== old ? 'kept-against-vanilla' : 'out'
    if (fresh !== old) this.noteComments(NEW, [this.entries.matching.node(NEW, cls)])
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
    const list = this.entries.lists[side]
    const doc = this.merge.docs[side]
    for (let unit = 0; unit < (list?.length ?? 0); unit++) {
      if (list === undefined) break
      const texts = list.isComment(unit)
        ? [doc.commentText(list.node(unit))]
        : this.ownTexts(side, unit)
      for (const text of texts) counts.set(text, (counts.get(text) ?? 0) + 1)
    }
    return counts
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
      return ownComments(list, at).map((comment) => this.merge.docs[of].commentText(comment))
    }
    const own = texts(side, unit)
    if (side !== MINE) return own
    const cls = matching.classOf[MINE][unit] ?? -1
    const fresh = matching.unit(NEW, cls)
    const isAsInOld = own.join('\n') === texts(OLD, matching.unit(OLD, cls)).join('\n')
    if (!isAsInOld) return own
    if (fresh >= 0) return texts(NEW, fresh)
    const nodes = this.entries.nodesOf(cls)
    return nodes[OLD] >= 0 && this.isAsInOld(MINE, nodes) ? [] : own
  }

  private unitForm(side: Side, cls: number): string | undefined {
    const node = this.entries.matching.node(side, cls)
    return node < 0 ? undefined : this.merge.docs[side].commentText(node)
  }

  /** Vanilla removed an entry: comments of it that mine had edited stay, with a note. */
  private keepEditedComments(cls: number): void {
    const [old, , mine] = triple((side) => this.commentsOf(side, cls))
    const known = new Set(old.map((comment) => this.merge.docs[OLD].commentText(comment)))
    const edited = (comment: number): boolean =>
      !known.has(this.merge.docs[MINE].commentText(comment))
    const list = this.entries.lists[MINE]
    const unit = this.entries.matching.unit(MINE, cls)
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
    const list = this.entries.lists[side]
    const unit = this.entries.matching.unit(side, cls)
    if (list === undefined || unit < 0) return []
    const inside = commentsInside(this.merge.docs[side], list.node(unit))
    return [...ownComments(list, unit), ...inside, ...trailingComments(list, unit)]
  }

  private noteComments(side: Side, comments: readonly number[]): void {
    if (this.merge.writer.isMuted) return
    for (const comment of comments) {
      this.merge.ledger.problem(carryProblems.commentQuoted(this.merge.docs[side], comment, side))
    }
  }
}
