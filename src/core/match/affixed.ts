import type { Side } from '../document/sides.ts'
import { OLD } from '../document/sides.ts'
import { affixedNames } from './affixed-names.ts'
import type { Changed } from './links.ts'
import type { MatchState } from './match-state.ts'
import { byPool, identityPaths, nameOf, ownPool } from './pools.ts'

/** All names that got one affix are evidence by themselves: from this likeness on two of them are one. */
const LEAST_ALIKE = 0.7

/** An entry of old, and one of a side that it may be there. */
export type SideEntry = readonly [i: number, side: Changed, j: number]

/**
 * Links entries whose names all got one text before or behind them on a side, as far as they are alike. Where new and
 * mine gave an entry different names nothing tells which is to hold, and none is linked.
 *
 * @returns those that are not linked: what they may be now
 */
export function linkByAffix(state: MatchState, sides: readonly Changed[]): SideEntry[] {
  const affixed = sides.flatMap((side) => withAffixes(state, side))
  const isOneName = areOneName(state, affixed)
  return affixed.filter((one) => !isOneName || !linkIfAlike(state, one))
}

function withAffixes({ told, links }: MatchState, side: Changed): SideEntry[] {
  const lost = byPool(told, OLD, (at) => links.partner(OLD, at, side) < 0, ownPool)
  if (lost.size === 0) return []
  const all = byPool(told, OLD, () => true, ownPool)
  const gained = byPool(told, side, (at) => links.partner(side, at, OLD) < 0, ownPool)
  const byName = (of: Side, entries: readonly number[] = []): Map<string, number> =>
    new Map(entries.map((at) => [nameOf(told, of, at) ?? '', at]))
  return [...lost].flatMap(([pool, entries]) => {
    // what is known again has kept its name
    if (entries.length < (all.get(pool)?.length ?? 0)) return []
    const pairs = affixedNames(byName(OLD, entries), byName(side, gained.get(pool)))
    return pairs.map(([i, j]): SideEntry => [i, side, j])
  })
}

function areOneName({ told }: MatchState, all: readonly SideEntry[]): boolean {
  const names = new Map<number, string>()
  return all.every(([i, side, j]) => {
    const name = nameOf(told, side, j) ?? ''
    const known = names.get(i)
    names.set(i, name)
    return known === undefined || known === name
  })
}

function linkIfAlike({ alike, told, links }: MatchState, [i, side, j]: SideEntry): boolean {
  const { score } = alike.likeness(OLD, i, side, j, alike.numbersOf(identityPaths(told, i)))
  return score >= LEAST_ALIKE && links.link(OLD, i, side, j, 'renamed')
}
