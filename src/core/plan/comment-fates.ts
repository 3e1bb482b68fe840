import { timesOf } from '../document/gather.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Changed } from '../match/links.ts'
import { commentForm, ownComments, unitComments } from './comments.ts'
import type { PlanContext } from './context.ts'
import type { Entries } from './entries.ts'
import type { EntryFate, Fate } from './plan.ts'
import { NOTHING_TOLD } from './plan.ts'
import { quoted } from './quoted-comments.ts'
import { UnitPlanner } from './unit-parts.ts'

/** How often each comment stands in each document, and in the result as far as that is known. */
type CommentCounts = Record<'old' | 'fresh' | 'mine' | 'result', Map<string, number>>

const count = (counts: ReadonlyMap<string, number>, text: string): number => counts.get(text) ?? 0

/**
 * Decides which blocks of comments the result has that new and mine do not both have. A comment may stand apart in
 * one document and above an entry in another: what the result has is counted, so that none is twice there, and none lost.
 */
export class CommentFates {
  private readonly units: UnitPlanner
  private known: CommentCounts | undefined

  /** @param fates of all classes; those of entries are known */
  constructor(
    private readonly context: PlanContext,
    private readonly entries: Entries,
    private readonly fates: EntryFate[],
  ) {
    this.units = new UnitPlanner(context, entries.lists)
  }

  /** Fills in the fates of comments. */
  decide(comments: readonly number[]): void {
    // what came counts where it is asked whether a block of old is still there
    const isNew = (cls: number): boolean => this.entries.matching.unit(OLD, cls) < 0
    for (const cls of comments.filter(isNew)) this.fates[cls] = this.fate(cls)
    for (const cls of comments) if (!isNew(cls)) this.fates[cls] = this.fate(cls)
  }

  /** A comment of its own that one side removed: gone, unless mine had rewritten it. */
  private fate(cls: number): EntryFate {
    const [old, fresh, mine] = triple((side) => this.unitForm(side, cls))
    const as = (fate: Fate): EntryFate => ({ fate, told: NOTHING_TOLD })
    if (old === undefined && mine !== undefined) return as(this.isTwice(cls) ? 'out' : 'mine-added')
    if (old === undefined) return as(this.isInMine(cls) ? 'out' : 'vanilla-added')
    if (fresh === undefined) {
      const isKept = (mine !== undefined && mine !== old) || this.isMissed(MINE, cls)
      return as(isKept ? 'kept-against-vanilla' : 'out')
    }
    if (this.isMissed(NEW, cls)) return as('vanilla-added')
    if (fresh === old) return as('out')
    return { fate: 'out', told: quoted(this.context.docs[NEW], NEW, this.blockOf(NEW, cls)) }
  }

  private isInMine(cls: number): boolean {
    return this.context.areBroughtByBoth(this.blockOf(NEW, cls)) || this.hasAlready(cls)
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
   * Whether a block that mine has apart would be there once more than in any document: old has it directly above
   * an entry, and new puts another there. What is left out counts no more from then on.
   */
  private isTwice(cls: number): boolean {
    const { old, fresh, mine, result } = this.counts
    const texts = this.textsOf(MINE, cls)
    const isMore = (text: string): boolean =>
      count(result, text) > Math.max(count(fresh, text), count(mine, text)) &&
      count(old, text) >= count(mine, text)
    if (!texts.every(isMore)) return false
    for (const text of texts) result.set(text, count(result, text) - 1)
    return true
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
    return (this.known ??= {
      old: timesOf(this.each(OLD, (unit) => this.textsAt(OLD, unit))),
      fresh: timesOf(this.each(NEW, (unit) => this.textsAt(NEW, unit))),
      mine: timesOf(this.each(MINE, (unit) => this.textsAt(MINE, unit))),
      result: timesOf([
        ...this.each(MINE, (unit) => this.textsLeft(unit)),
        ...this.each(NEW, (unit) => this.textsCome(unit)),
      ]),
    })
  }

  private putIn(texts: readonly string[]): void {
    const { result } = this.counts
    for (const text of texts) result.set(text, count(result, text) + 1)
  }

  private textsOf(side: Side, cls: number): string[] {
    return this.blockOf(side, cls).map((comment) => this.context.docs[side].commentText(comment))
  }

  /** The comments among this container's entries, apart or directly above one. */
  private each(side: Side, textsOf: (unit: number) => readonly string[]): string[] {
    const length = this.entries.lists[side]?.length ?? 0
    return Array.from({ length }, (_, unit) => textsOf(unit)).flat()
  }

  /** The comments above an entry that new alone brings into the result. */
  private textsCome(unit: number): readonly string[] {
    const cls = surely(this.entries.matching.classOf[NEW][unit])
    const comes = surely(this.fates[cls]).fate === 'vanilla-added' && !this.entries.isComment(cls)
    return comes ? this.textsAt(NEW, unit) : []
  }

  /** Of the comments at a unit of mine those that the result has: what one side left alone is as the other has it. */
  private textsLeft(unit: number): readonly string[] {
    const { matching } = this.entries
    const cls = surely(matching.classOf[MINE][unit])
    const own = this.textsAt(MINE, unit)
    const isEntry = !this.entries.isComment(cls)
    if (isEntry && surely(this.fates[cls]).fate === 'out') return []
    const units = triple((side) => matching.unit(side, cls))
    if (units[NEW] >= 0) return this.units.commentsLeft(units)
    const isAsInOld = own.join('\n') === this.textsAt(OLD, units[OLD]).join('\n')
    return !isEntry && isAsInOld ? [] : own
  }

  /** The comments that a unit is, or those directly above it; none where there is no unit. */
  private textsAt(side: Side, unit: number): string[] {
    const list = this.entries.lists[side]
    if (list === undefined || unit < 0) return []
    const comments = list.isComment(unit) ? unitComments(list, unit) : ownComments(list, unit)
    return comments.map((comment) => this.context.docs[side].commentText(comment))
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
}
