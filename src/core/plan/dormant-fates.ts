import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import type { DormantEntries, DormantEntry } from '../match/dormant.ts'
import type { Changed } from '../match/links.ts'
import { carryProblems } from './carry-problems.ts'
import { unitComments } from './comments.ts'
import type { PlanContext } from './context.ts'
import type { EntryFate, Telling } from './plan.ts'
import type { Entries } from './entries.ts'
import type { ChangeSide, ConflictKind } from './telling.ts'
import { NOTHING_TOLD } from './plan.ts'
import { quoted, quotedInside } from './quoted-comments.ts'

/** An entry in one document: live, or dormant in comments. */
interface State {
  doc: Doc
  node: number
  dormant: DormantEntry | undefined
}

/**
 * What becomes of entries that stand in comments in some document. Live or dormant is a value like any other, and so
 * is what the entry holds: both are merged three-way, in place.
 */
export class DormantFates {
  constructor(
    private readonly context: PlanContext,
    private readonly entries: Entries,
    private readonly dormant: DormantEntries | undefined,
  ) {}

  /** @param cls a class that is dormant in at least one document */
  fate(cls: number): EntryFate {
    const [old, fresh, mine] = this.states(cls)
    if (fresh === undefined || mine === undefined) return this.fateOfOne(cls)
    if (isLive(fresh) && isLive(mine)) return { fate: 'merged', told: NOTHING_TOLD }
    if (!isLive(fresh) && !isLive(mine))
      return isLive(old) ? this.commentedOutByBoth(cls) : stands(MINE)
    if (isLive(mine)) return this.onlyMineLive(cls, mine)
    if (isLive(old))
      return isSame(old, fresh)
        ? stands(MINE, this.change('mine', 'removed', cls), ...this.commentsOf(NEW, cls))
        : stands(MINE, this.conflict('gone-in-mine', cls, MINE, mine))
    const isReplaced = old !== undefined && !isSame(old, mine) && !isSame(fresh, mine)
    const replaced = isReplaced ? [this.replaced(cls, mine)] : []
    return stands(NEW, this.change('vanilla', 'added', cls), ...replaced)
  }

  /** What an entry holds is merged three-way in comments, too. */
  private commentedOutByBoth(cls: number): EntryFate {
    const states = this.states(cls)
    const change = this.change('both', 'removed', cls)
    if (isSame(states[OLD], states[MINE])) return stands(NEW, change)
    return stands(MINE, change, ...this.lostByVanilla(states))
  }

  private onlyMineLive(cls: number, mine: State): EntryFate {
    const [old, fresh] = this.states(cls)
    if (!isLive(old))
      return stands(MINE, ...this.changedDefault(cls), this.change('mine', 'added', cls))
    if (isSame(old, mine))
      return stands(NEW, this.change('vanilla', 'removed', cls), ...this.commentsOf(MINE, cls))
    const lost = this.lostByVanilla([old, fresh, mine])
    return stands(MINE, this.conflict('gone-in-vanilla', cls, NEW, fresh), ...lost)
  }

  /** Of an entry that one of new and mine has neither live nor dormant. */
  private fateOfOne(cls: number): EntryFate {
    const [old, fresh, mine] = this.states(cls)
    const own = fresh ?? mine
    if (own === undefined) return { fate: 'out', told: NOTHING_TOLD }
    const [fate, by] =
      own === fresh ? (['vanilla-added', 'vanilla'] as const) : (['mine-added', 'mine'] as const)
    if (isLive(own)) {
      const defaults = by === 'mine' ? this.changedDefault(cls) : []
      return { fate, told: [...defaults, this.change(by, 'added', cls)] }
    }
    if (isLive(old)) {
      const told = [this.change('both', 'removed', cls)]
      return by === 'vanilla' && this.isInMine(cls) ? { fate: 'out', told } : { fate, told }
    }
    if (old === undefined) return { fate, told: NOTHING_TOLD }
    if (by === 'mine')
      return { fate: isSame(old, own) ? 'out' : 'kept-against-vanilla', told: NOTHING_TOLD }
    return { fate: 'out', told: isSame(old, own) ? NOTHING_TOLD : this.lost(own) }
  }

  /** Whether mine has the comments of new's entry, too, where they are no entry: above a section, as in the file's own. */
  private isInMine(cls: number): boolean {
    const list = this.entries.lists[NEW]
    if (list === undefined) return false
    return this.context.areBroughtByBoth(unitComments(list, this.entries.matching.unit(NEW, cls)))
  }

  private states(cls: number): Triple<State | undefined> {
    const { matching } = this.entries
    return triple((side) => {
      if (matching.unit(side, cls) < 0) return undefined
      return { ...matching.entry(side, cls), dormant: matching.dormantEntry(side, cls) }
    })
  }

  // What is told

  private change(side: ChangeSide, kind: 'added' | 'removed', cls: number): Telling {
    const from = kind === 'removed' ? undefined : side === 'vanilla' ? NEW : MINE
    const nodes = this.entries.nodesOf(cls)
    return { tell: 'change', side, kind, key: this.entries.keyOf(cls), nodes, from }
  }

  /** @param side the side that has it in comments */
  private conflict(kind: ConflictKind, cls: number, side: Side, state: State | undefined): Telling {
    const nodes = this.entries.nodesOf(cls)
    const comment = state?.dormant?.first
    const key = this.entries.keyOf(cls)
    return {
      tell: 'conflict',
      kind,
      key,
      nodes,
      ...(comment === undefined ? {} : { commentedOut: { side, comment } }),
    }
  }

  /**
   * Mine made live what old ships commented out, in its place or beside it: where vanilla has changed that comment
   * or dropped it, it is told, for mine's value may have been tuned to it.
   */
  changedDefault(cls: number): Telling[] {
    const { docs } = this.context
    if (this.dormant === undefined) return []
    const live = this.entries.matching.entry(MINE, cls)
    const old = this.dormant.inComments(OLD, live)
    const fresh = this.dormant.inComments(NEW, live)
    if (old === undefined) return []
    if (fresh !== undefined && sameContent(old.doc, old.node, fresh.doc, fresh.node)) return []
    const problem = carryProblems.defaultChanged(docs, this.entries.keyOf(cls), old, fresh)
    return [{ tell: 'loss', problem }]
  }

  private replaced(cls: number, { dormant }: State): Telling {
    const key = this.entries.keyOf(cls)
    const problem = carryProblems.dormantReplaced(this.context.docs[MINE], key, surely(dormant))
    return { tell: 'loss', problem }
  }

  /** What vanilla has in comments with changes, where mine's entry stands. */
  private lostByVanilla([old, fresh, mine]: Triple<State | undefined>): Telling[] {
    return fresh === undefined || isSame(old, fresh) || isSame(fresh, mine) ? [] : this.lost(fresh)
  }

  /** The comments that a side put into what the other side has commented out. */
  private commentsOf(side: Changed, cls: number): Telling[] {
    return quotedInside(this.context.docs, this.entries.nodesOf(cls), side)
  }

  /** Vanilla's comment, which mine has removed and vanilla changed. */
  private lost({ dormant }: State): Telling[] {
    return quoted(this.context.docs[NEW], NEW, [surely(dormant).first])
  }
}

function isLive(state: State | undefined): boolean {
  return state !== undefined && state.dormant === undefined
}

function isSame(a: State | undefined, b: State | undefined): boolean {
  return a !== undefined && b !== undefined && sameContent(a.doc, a.node, b.doc, b.node)
}

/** An entry that stands as one side has it, live or dormant. */
function stands(side: Side, ...told: readonly Telling[]): EntryFate {
  return { fate: 'merged', told, stands: side }
}
