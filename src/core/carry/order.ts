import type { Matching } from '../identity/matching.ts'
import { longestIncreasing } from '../identity/sequence.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'

/** In which order a container's entries stand in the result, and who moved which. */
export interface ResultOrder {
  classes: number[]
  moved: ReadonlyMap<number, 'vanilla' | 'mine' | 'both'>
  /** Entries that vanilla moved and that stand as mine has them, since both re-ordered differently. */
  clash: readonly number[]
}

/** What each side did to the order of the entries that all three documents have. */
export interface Moves {
  /** Whether new and mine have one order of them. */
  agree: boolean
  /** Whether a side re-ordered, and the entries that it must have moved. */
  vanillaMoved: boolean
  mineMoved: boolean
  byVanilla: readonly number[]
  byMine: readonly number[]
}

/** Compares the orders of the entries that all three documents have. */
export function movesOf(matching: Matching): Moves {
  const [old, fresh, mine] = triple((side) =>
    matching.classOf[side].filter((cls) => isCommon(matching, cls)),
  )
  const vanillaMoved = !sameSequence(old, fresh)
  const mineMoved = !sameSequence(old, mine)
  const agree = sameSequence(fresh, mine)
  return {
    agree,
    vanillaMoved,
    mineMoved,
    byVanilla: vanillaMoved && !agree ? displaced(old, fresh) : [],
    byMine: mineMoved ? displaced(old, mine) : [],
  }
}

/**
 * Whether a run of entries is among what a side moved: entries that were renamed may have been moved past it.
 * Then it may be that fewer entries were moved than stand in the run.
 */
export function movesRuns(matching: Matching, { byVanilla, byMine }: Moves): boolean {
  const isRun = (cls: number): boolean =>
    matching.lists[OLD]?.runOf(matching.unit(OLD, cls)) !== undefined
  return byVanilla.some(isRun) || byMine.some(isRun)
}

/**
 * Mine's order is the ground; where only vanilla re-ordered, new's, with mine's own entries after the
 * neighbours they had. Then each run that only new has goes directly after its predecessor in new, or
 * after the nearest one before it that the result has.
 *
 * @param inResult whether a class is in the result
 */
export function resultOrder(
  matching: Matching,
  { agree, vanillaMoved, mineMoved, byVanilla, byMine }: Moves,
  inResult: (cls: number) => boolean,
): ResultOrder {
  const skeleton =
    vanillaMoved && !mineMoved
      ? inNewOrder(matching, inResult)
      : matching.classOf[MINE].filter(inResult)
  const moved = new Map<number, 'vanilla' | 'mine' | 'both'>()
  for (const cls of byMine) moved.set(cls, agree ? 'both' : 'mine')
  if (!mineMoved) for (const cls of byVanilla) moved.set(cls, 'vanilla')
  return {
    classes: withRuns(matching, skeleton, inResult),
    moved,
    clash: mineMoved ? byVanilla : [],
  }
}

/** Whether a class is an entry that all three have; comments do not tell an order. */
function isCommon(matching: Matching, cls: number): boolean {
  const unit = matching.unit(OLD, cls)
  return (
    unit >= 0 &&
    matching.unit(NEW, cls) >= 0 &&
    matching.unit(MINE, cls) >= 0 &&
    matching.lists[OLD]?.isComment(unit) === false
  )
}

function sameSequence(a: readonly number[], b: readonly number[]): boolean {
  return a.every((cls, i) => cls === b[i])
}

/** Mine's entries in new's order: each entry that new lacks stays behind the one it follows in mine. */
function inNewOrder(matching: Matching, inResult: (cls: number) => boolean): number[] {
  const leading: number[] = []
  const followers = new Map<number, number[]>()
  let current = leading
  for (const cls of matching.classOf[MINE]) {
    if (!inResult(cls)) continue
    if (matching.unit(NEW, cls) >= 0) {
      current = [cls]
      followers.set(cls, current)
    } else current.push(cls)
  }
  const order = [...leading]
  for (const cls of matching.classOf[NEW]) order.push(...(followers.get(cls) ?? []))
  return order
}

/**
 * The skeleton with the runs that only new has put in. A comment is a predecessor only where it stands
 * behind the same entry in both: one of the same words elsewhere must not draw entries to it.
 */
function withRuns(
  matching: Matching,
  skeleton: readonly number[],
  inResult: (cls: number) => boolean,
): number[] {
  const runs = new Map<number, number[]>()
  let entryBefore: Map<number, number> | undefined
  let predecessor = -1
  let entry = -1
  for (const cls of matching.classOf[NEW]) {
    if (!inResult(cls)) continue
    const isEntry = !isCommentClass(matching, cls)
    if (matching.unit(MINE, cls) >= 0) {
      entryBefore ??= isEntry ? undefined : entriesBefore(matching, skeleton)
      if (isEntry || entryBefore?.get(cls) === entry) predecessor = cls
      if (isEntry) entry = cls
    } else if (runs.has(predecessor)) runs.get(predecessor)?.push(cls)
    else runs.set(predecessor, [cls])
  }
  if (runs.size === 0) return [...skeleton]
  const order = [...(runs.get(-1) ?? [])]
  for (const cls of skeleton) {
    order.push(cls)
    const run = runs.get(cls)
    if (run !== undefined) order.push(...run)
  }
  return order
}

function isCommentClass(matching: Matching, cls: number): boolean {
  for (const side of SIDES) {
    const unit = matching.unit(side, cls)
    if (unit >= 0 && matching.lists[side]?.isComment(unit) === true) return true
  }
  return false
}

/** For each class of a sequence the nearest entry before it; -1 where there is none. */
function entriesBefore(matching: Matching, sequence: readonly number[]): Map<number, number> {
  const before = new Map<number, number>()
  let entry = -1
  for (const cls of sequence) {
    before.set(cls, entry)
    if (!isCommentClass(matching, cls)) entry = cls
  }
  return before
}

/**
 * The entries of `after` that must have been moved to get from `before` to it: all that are not in a
 * longest common subsequence, which for two orders of the same entries is a longest increasing one.
 */
export function displaced(before: readonly number[], after: readonly number[]): number[] {
  // what both begin and end with has not moved
  let start = 0
  let [stopBefore, stop] = [before.length, after.length]
  while (start < stop && before[start] === after[start]) start++
  while (stop > start && before[stopBefore - 1] === after[stop - 1]) {
    stopBefore--
    stop--
  }
  const ranks = new Map(before.slice(start, stopBefore).map((cls, rank) => [cls, rank]))
  const classes = after.slice(start, stop)
  const stays = longestIncreasing(classes.map((cls) => ranks.get(cls) ?? -1))
  return classes.filter((_, i) => stays[i] === 0)
}
