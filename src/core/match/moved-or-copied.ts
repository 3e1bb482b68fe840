import { OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Changed, Links } from './links.ts'
import { otherSide } from './links.ts'
import type { MatchState } from './match-state.ts'
import type { Stretch } from './stretches.ts'
import { areExchangeable } from './stretches.ts'

/**
 * What a side has elsewhere of old, without a name, may have moved there; or it is a copy, and what the side has in its
 * place is the entry itself, changed. Where the other side changed or dropped the entry the two are asked.
 */
export function movedOrCopied(state: MatchState, sides: readonly Changed[]): Stretch[] {
  const { links, told, alike } = state
  return sides.flatMap((side) =>
    [...told.items[OLD].entries()].flatMap(([i, item]): Stretch[] => {
      const cls = links.classOf(OLD, i)
      const j = links.member(side, cls)
      if (j < 0 || told.id(OLD, i) !== undefined || !hasPassed(links, side, i, j)) return []
      const other = links.member(otherSide(side), cls)
      const isTouched = other < 0 || !surely(told.items[otherSide(side)][other]).isSame(item)
      if (!isTouched) return []
      const inItsPlace = placesOf(links, side, i).filter((at) => {
        const put = told.items[side][at]
        if (put === undefined || links.partner(side, at, OLD) >= 0) return false
        if (told.id(side, at) !== undefined || !areExchangeable(item, put)) return false
        return alike.likeness(OLD, i, side, at).score > 0
      })
      if (inItsPlace.length === 0) return []
      return [new Set([cls, ...inItsPlace.map((at) => links.classOf(side, at))])]
    }),
  )
}

/** Whether a side has an entry of old on the other side of one that stood beside it. */
function hasPassed(links: Links, side: Changed, i: number, j: number): boolean {
  const [before, after] = [links.partner(OLD, i - 1, side), links.partner(OLD, i + 1, side)]
  return before > j || (after >= 0 && after < j)
}

/** Where a side would have an entry of old if it stood beside what stood beside it. */
function placesOf(links: Links, side: Changed, i: number): readonly number[] {
  return [links.partner(OLD, i - 1, side) + 1, links.partner(OLD, i + 1, side) - 1]
}
