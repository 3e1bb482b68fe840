import type { Side, Triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { longestIncreasing } from '../likeness/rising.ts'

/** Which entries are one, as far as their order goes; comments that belong to no entry are among them. */
export interface Classes {
  /** The classes of each document's entries, in their order there. */
  readonly classOf: Triple<readonly number[]>
  /** The entry of a class in a document, or -1. */
  unit(side: Side, cls: number): number
  isComment(side: Side, unit: number): boolean
}

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
  /** Whether vanilla moved what all three have, comments among it, and mine moved none of that. */
  onlyVanillaMovedAny: boolean
}

/** Compares the orders of the entries that all three documents have. */
export function movesOf(classes: Classes): Moves {
  const common = triple((side) =>
    classes.classOf[side].filter((cls) => SIDES.every((each) => classes.unit(each, cls) >= 0)),
  )
  // comments do not tell an order
  const [old, fresh, mine] = triple((side) =>
    common[side].filter((cls) => !classes.isComment(OLD, classes.unit(OLD, cls))),
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
    onlyVanillaMovedAny:
      !sameSequence(common[OLD], common[NEW]) && sameSequence(common[OLD], common[MINE]),
  }
}

/**
 * Mine's order is the ground; where only vanilla re-ordered entries, or comments alone, new's. An entry of old that the ground lost has
 * its place behind what stands there instead. What only the other side has goes directly behind its
 * predecessor there. At one point vanilla's run stands first.
 *
 * @param inResult whether a class is in the result
 */
export function resultOrder(
  classes: Classes,
  { agree, vanillaMoved, mineMoved, byVanilla, byMine, onlyVanillaMovedAny }: Moves,
  inResult: (cls: number) => boolean,
): ResultOrder {
  const ground = !mineMoved && (vanillaMoved || onlyVanillaMovedAny) ? NEW : MINE
  const moved = new Map<number, 'vanilla' | 'mine' | 'both'>()
  for (const cls of byMine) moved.set(cls, agree ? 'both' : 'mine')
  if (!mineMoved) for (const cls of byVanilla) moved.set(cls, 'vanilla')
  return {
    classes: withRuns(classes, ground).filter(inResult),
    moved,
    clash: mineMoved ? byVanilla : [],
  }
}

function sameSequence(a: readonly number[], b: readonly number[]): boolean {
  return a.every((cls, i) => cls === b[i])
}

/** The classes of the ground, with what only the other side has put in where it belongs. */
function withRuns(classes: Classes, ground: Side): number[] {
  const other = ground === MINE ? NEW : MINE
  const skeleton = withLost(classes, ground)
  const known = new Set(skeleton)
  const runs = new Map<number, number[]>()
  const behindOther = new Neighbours(classes, skeleton, [other])
  const behindBoth = new Neighbours(classes, skeleton, [ground, other])
  let predecessor = -1
  for (const cls of classes.classOf[other]) {
    if (known.has(cls)) {
      // a comment of the same words elsewhere draws no entries to it, nor does one that the ground lost and other moved
      const isInPlace = isCommentClass(classes, cls)
        ? behindOther.areSame(cls)
        : classes.unit(ground, cls) >= 0 || behindBoth.areSame(cls)
      if (isInPlace) predecessor = cls
      behindOther.pass(cls)
      behindBoth.pass(cls)
    } else if (runs.has(predecessor)) runs.get(predecessor)?.push(cls)
    else runs.set(predecessor, [cls])
  }
  if (runs.size === 0) return skeleton
  return ground === MINE ? putIn(skeleton, runs) : putBehindNew(classes, skeleton, runs)
}

function putIn(skeleton: readonly number[], runs: ReadonlyMap<number, number[]>): number[] {
  const order = [...(runs.get(-1) ?? [])]
  for (const cls of skeleton) {
    order.push(cls)
    for (const own of runs.get(cls) ?? []) order.push(own)
  }
  return order
}

/** Mine's runs in new's order: behind the entries that new brought at the same point, with the comments above those. */
function putBehindNew(
  classes: Classes,
  skeleton: readonly number[],
  runs: ReadonlyMap<number, number[]>,
): number[] {
  const isOwn = (cls: number): boolean => classes.unit(OLD, cls) < 0 && classes.unit(MINE, cls) < 0
  const order: number[] = []
  let waiting: number[] = [...(runs.get(-1) ?? [])]
  let comments: number[] = []
  const putAll = (): void => {
    for (const cls of waiting) order.push(cls)
    for (const cls of comments) order.push(cls)
    waiting = []
    comments = []
  }
  for (const cls of skeleton) {
    if (isOwn(cls) && isCommentClass(classes, cls)) {
      comments.push(cls)
      continue
    }
    if (!isOwn(cls)) putAll()
    for (const above of comments) order.push(above)
    comments = []
    order.push(cls)
    for (const own of runs.get(cls) ?? []) waiting.push(own)
  }
  putAll()
  return order
}

/** The classes of one side in their order, with those of old that it lost: behind what it has in their place. */
function withLost(classes: Classes, side: Side): number[] {
  const isLost = (cls: number): boolean =>
    classes.unit(side, cls) < 0 && !isCommentClass(classes, cls)
  if (!classes.classOf[OLD].some(isLost)) return [...classes.classOf[side]]
  const anchors = inOrderOfBoth(classes, side)
  const lostBefore = new Map<number, number[]>()
  let gap: number[] = []
  for (const cls of classes.classOf[OLD]) {
    if (isLost(cls)) gap.push(cls)
    else if (anchors.has(cls)) {
      lostBefore.set(cls, gap)
      gap = []
    }
  }
  const order: number[] = []
  for (const cls of classes.classOf[side]) {
    for (const lost of lostBefore.get(cls) ?? []) order.push(lost)
    order.push(cls)
  }
  for (const lost of gap) order.push(lost)
  return order
}

/** Entries that old and a side have in one order. */
function inOrderOfBoth(classes: Classes, side: Side): Set<number> {
  const shared = classes.classOf[OLD].filter(
    (cls) => classes.unit(side, cls) >= 0 && !isCommentClass(classes, cls),
  )
  const stays = longestIncreasing(shared.map((cls) => classes.unit(side, cls)))
  return new Set(shared.filter((_, at) => stays[at] === 1))
}

function isCommentClass(classes: Classes, cls: number): boolean {
  for (const side of SIDES) {
    const unit = classes.unit(side, cls)
    if (unit >= 0) return classes.isComment(side, unit)
  }
  return false
}

/** Tells whether the nearest entry before a class is the same in a sequence and on a walk: of entries that all of some sides have. */
class Neighbours {
  private before: Map<number, number> | undefined
  private passed = -1

  constructor(
    private readonly classes: Classes,
    private readonly sequence: readonly number[],
    private readonly sides: readonly Side[],
  ) {}

  /** Whether the entry before a class in the sequence is the one that was passed last. */
  areSame(cls: number): boolean {
    this.before ??= this.entriesBefore()
    return this.before.get(cls) === this.passed
  }

  pass(cls: number): void {
    if (this.counts(cls)) this.passed = cls
  }

  private counts(cls: number): boolean {
    const { classes, sides } = this
    return sides.every((side) => classes.unit(side, cls) >= 0) && !isCommentClass(classes, cls)
  }

  /** For each class of the sequence the entry before it; -1 where there is none. */
  private entriesBefore(): Map<number, number> {
    const before = new Map<number, number>()
    let entry = -1
    for (const cls of this.sequence) {
      before.set(cls, entry)
      if (this.counts(cls)) entry = cls
    }
    return before
  }
}

/**
 * The entries of `after` that must have been moved to get from `before` to it: all that are not in a
 * longest common subsequence, which for two orders of the same entries is a longest increasing one.
 */
export function displaced(before: readonly number[], after: readonly number[]): number[] {
  const ranks = new Map(before.map((cls, rank) => [cls, rank]))
  const stays = longestIncreasing(after.map((cls) => surely(ranks.get(cls))))
  return after.filter((_, i) => stays[i] === 0)
}
