import { gather } from '../document/gather.ts'
import type { Pair } from '../likeness/only-ones.ts'
import { pairAlike } from '../likeness/pair-alike.ts'
import { longestIncreasing } from '../likeness/rising.ts'
import type { Alike } from './alike.ts'
import type { Changed, Gap, Links } from './links.ts'
import type { MatchState } from './match-state.ts'
import { OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'

/** From this likeness on two entries without identity that stand in one gap may be one. */
const LEAST_ALIKE = 0.5
/** By so much one of two wishes that contradict must be the likelier, to stand. */
const CLEARLY = 0.15
/** Of longer gaps what shares a value that no others have is paired first. */
const MOST_CELLS = 2_500
/** Beyond this many comparisons what is left of a gap is not paired. */
const MOST_COMPARED = 250_000

/** An entry of a side that may be one of old's. */
interface Wish {
  side: Changed
  old: number
  at: number
  score: number
  why: 'alike' | 'place'
}

/**
 * Pairs what stands in gaps: entries by likeness alone, plain ones in their order where as many are left on
 * either side. Each round looks at one state for both sides and then links, so that neither goes first.
 *
 * @param sides those that are compared with old
 * @param isBold whether entries are paired in their order, too, that have a single value in common, or one value only
 * @returns whether nothing was contradictory: false where an entry that both have wants to be two of old's
 */
export function pairInGaps(state: MatchState, sides: readonly Changed[], isBold = false): boolean {
  const { links } = state
  let isClear = true
  let hasLinked = true
  // what one round finds are neighbours for the next
  while (hasLinked) {
    const wishes = sides.flatMap((side) =>
      links.gaps(side).flatMap((gap) => wishesIn(state, side, gap, isBold)),
    )
    const { granted, refused } = settle(wishes, links)
    if (refused > 0) isClear = false
    const linked = granted.filter(({ side, old, at, why }) => links.link(OLD, old, side, at, why))
    hasLinked = linked.length > 0
  }
  return isClear
}

function wishesIn(state: MatchState, side: Changed, gap: Gap, isBold: boolean): Wish[] {
  const { told } = state
  const { old, put } = gap
  const groups = new Set(old.map((at) => told.group(OLD, at)))
  return [...groups].flatMap((group) => {
    const of = (side: 0 | Changed, all: readonly number[]): number[] =>
      all.filter((at) => told.group(side, at) === group)
    const [ones, others] = [of(OLD, old), of(side, put)]
    const isRich = (of: 0 | Changed, at: number): boolean => !surely(told.items[of][at]).isPlain
    const alike = wishesByLikeness(
      state,
      side,
      ones.filter((at) => isRich(OLD, at)),
      others.filter((at) => isRich(side, at)),
    )
    if (alike.length > 0) return alike
    const byPlace = wishesByPlace(side, ones, others)
    const arePlain = byPlace.every(({ old: was, at }) => !isRich(OLD, was) || !isRich(side, at))
    if (arePlain) return byPlace
    if (!isBold) return []
    const haveInCommon = ({ old: was, at }: Wish): boolean => {
      const { values } = state.alike.featuresOf(side, at)
      const { values: before } = state.alike.featuresOf(OLD, was)
      return values.length <= 1 || before.some((value) => values.includes(value))
    }
    return byPlace.filter(haveInCommon)
  })
}

/** Plain entries, and those with nothing in them, in their order where there are as many here as there. */
function wishesByPlace(side: Changed, old: readonly number[], put: readonly number[]): Wish[] {
  if (old.length !== put.length) return []
  return old.map((at, i) => ({ side, old: at, at: surely(put[i]), score: 0, why: 'place' }))
}

function wishesByLikeness(
  { alike }: MatchState,
  side: Changed,
  old: readonly number[],
  put: readonly number[],
): Wish[] {
  const score = (i: number, j: number): number =>
    alike.score(OLD, surely(old[i]), side, surely(put[j]))
  const wishes: Wish[] = []
  const wish = (i: number, j: number): void => {
    wishes.push({ side, old: surely(old[i]), at: surely(put[j]), score: score(i, j), why: 'alike' })
  }
  const isLong = old.length * put.length > MOST_CELLS
  const fixed = isLong
    ? byOwnValues(alike, side, old, put).filter(([i, j]) => score(i, j) >= LEAST_ALIKE)
    : []
  let [i, j] = [0, 0]
  for (const [x, y] of [...fixed, [old.length, put.length] as Pair]) {
    const [rows, columns] = [x - i, y - j]
    const [fromRow, fromColumn] = [i, j]
    if (rows * columns <= MOST_COMPARED)
      for (const [r, c] of pairAlike(
        [rows, columns],
        (a, b) => score(fromRow + a, fromColumn + b),
        LEAST_ALIKE,
      ))
        wish(fromRow + r, fromColumn + c)
    if (x < old.length) wish(x, y)
    ;[i, j] = [x + 1, y + 1]
  }
  return wishes
}

/** Pairs that share values which only the two have in their gap, as far as they are in order in both. */
function byOwnValues(
  alike: Alike,
  side: Changed,
  old: readonly number[],
  put: readonly number[],
): Pair[] {
  const inOld = ownersOf(old.map((at) => alike.featuresOf(OLD, at).values))
  const inSide = ownersOf(put.map((at) => alike.featuresOf(side, at).values))
  const votes = new Map<number, Map<number, number>>()
  for (const [value, i] of inOld) {
    const j = inSide.get(value) ?? -1
    if (i < 0 || j < 0) continue
    const ofOne = votes.get(i) ?? new Map<number, number>()
    votes.set(i, ofOne.set(j, (ofOne.get(j) ?? 0) + 1))
  }
  const best = [...votes]
    .sort(([a], [b]) => a - b)
    .map(([i, ofOne]): Pair => [
      i,
      surely([...ofOne].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0])[0],
    ])
  const stays = longestIncreasing(best.map(([, j]) => j))
  return best.filter((_, at) => stays[at] === 1)
}

/** The rank of the one that has a value; -1 where several have it. */
function ownersOf(all: readonly (readonly number[])[]): Map<number, number> {
  const owners = new Map<number, number>()
  for (const [rank, values] of all.entries())
    for (const value of values) owners.set(value, owners.has(value) ? -1 : rank)
  return owners
}

/** Of wishes for one entry that both sides have, which are for two of old's, the one that is clearly likelier. */
function settle(wishes: readonly Wish[], links: Links): { granted: Wish[]; refused: number } {
  const byClass = new Map<number, Wish[]>()
  for (const wish of wishes) gather(byClass, links.classOf(wish.side, wish.at), wish)
  const granted: Wish[] = []
  let refused = 0
  for (const ofClass of byClass.values()) {
    const best = surely(ofClass.sort((a, b) => b.score - a.score)[0])
    const rival = ofClass.find(({ old }) => old !== best.old)
    if (rival === undefined || best.score - rival.score >= CLEARLY) granted.push(best)
    else refused++
  }
  return { granted, refused }
}
