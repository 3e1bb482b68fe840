import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { sharing } from './sharing.ts'
import type { Changed } from './links.ts'
import { otherSide } from './links.ts'
import type { MatchState } from './match-state.ts'

/** From this likeness on an entry that stands elsewhere may be the same, ... */
const LEAST_MOVED = 0.8
/** ... where no other comes nearer than this. */
const CLEARLY = 0.15
/** From this likeness on it is asked where the other side dropped the entry: nothing is dropped by a guess. */
const LEAST_ASKED = 0.5

interface Found {
  i: number
  j: number
  score: number
}

/** Links entries without identity that were moved and changed: far more alike than any other that is left. */
export function linkMovedAndChanged(state: MatchState, sides: readonly Changed[]): void {
  const { links } = state
  const found = sides.map((side) => ({ side, pairs: movedBetween(state, OLD, side) }))
  for (const { side, pairs } of found)
    for (const { i, j } of pairs) links.link(OLD, i, side, j, 'moved-and-changed')
  if (sides.length < 2) return
  for (const { i, j } of movedBetween(state, NEW, MINE)) {
    const hasOld = links.partner(NEW, i, OLD) >= 0 || links.partner(MINE, j, OLD) >= 0
    if (hasOld) links.link(NEW, i, MINE, j, 'moved-and-changed')
  }
  linkWhatOneDropped(state)
}

/**
 * Where one side dropped an entry and the other has something elsewhere that is likely the same, changed, the
 * two are one: that is a question, where both would else have dropped the entry and one have put in another.
 */
function linkWhatOneDropped(state: MatchState): void {
  const { links } = state
  const found = ([NEW, MINE] as const).flatMap((side) =>
    movedBetween(state, OLD, side, LEAST_ASKED).map((pair) => ({ side, ...pair })),
  )
  for (const { side, i, j } of found) {
    const isWantedTwice = found.some((each) => each.i === i && each.side !== side)
    const isDropped = links.partner(OLD, i, otherSide(side)) < 0
    const isOwn = links.partner(side, j, otherSide(side)) < 0
    if (isDropped && isOwn && !isWantedTwice) links.link(OLD, i, side, j, 'moved-and-changed')
  }
}

function movedBetween(
  { links, told, alike }: MatchState,
  a: Side,
  b: Side,
  least = LEAST_MOVED,
): Found[] {
  const free = (side: Side, other: Side): number[] =>
    [...told.items[side].keys()]
      .filter((at) => links.partner(side, at, other) < 0 && told.id(side, at) === undefined)
      .filter((at) => alike.featuresOf(side, at).values.length > 1)
  const [ones, others] = [free(a, b), free(b, a)]
  const scored = sharing(alike, [a, ones], [b, others], 1).flatMap(([i, j]): Found[] => {
    if (told.group(a, i) !== told.group(b, j)) return []
    return [{ i, j, score: alike.score(a, i, b, j) }]
  })
  return clearlyBest(scored, least)
}

function clearlyBest(scored: readonly Found[], least: number): Found[] {
  const best = new Map<string, [first: number, second: number]>()
  const note = (key: string, score: number): void => {
    const [first, second] = best.get(key) ?? [0, 0]
    best.set(key, score > first ? [score, first] : [first, Math.max(second, score)])
  }
  for (const { i, j, score } of scored) {
    note(`a${i}`, score)
    note(`b${j}`, score)
  }
  const isClear = (key: string, score: number): boolean => {
    const [first, second] = surely(best.get(key))
    return score === first && score - second >= CLEARLY
  }
  return scored.filter(
    ({ i, j, score }) => score >= least && isClear(`a${i}`, score) && isClear(`b${j}`, score),
  )
}
