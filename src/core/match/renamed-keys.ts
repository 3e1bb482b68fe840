import { gather } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { OLD } from '../document/sides.ts'
import type { Value } from '../likeness/value.ts'
import type { Changed } from './links.ts'
import type { MatchState } from './match-state.ts'

/**
 * Finds keys that a side may have given another name: the new key stands between the same neighbours as the lost one,
 * and among what was lost and what is new there they alone hold this value.
 *
 * @returns their ranks in old and in the side
 */
export function renamedKeys(state: MatchState, side: Changed): [number, number][] {
  const lost = keysByPlaceAndValue(state, OLD, side)
  if (lost.size === 0) return []
  const gained = keysByPlaceAndValue(state, side, OLD)
  return [...lost].flatMap(([spot, [i = -1, ...more]]): [number, number][] => {
    const [j = -1, ...others] = gained.get(spot) ?? []
    return j < 0 || more.length + others.length > 0 ? [] : [[i, j]]
  })
}

/** The keys of a document that the other lacks. */
function keysByPlaceAndValue(
  { links, told }: MatchState,
  side: Side,
  other: Side,
): Map<string, number[]> {
  const found = new Map<string, number[]>()
  let before = -1
  let between: [at: number, held: string][] = []
  const closeAt = (after: number): void => {
    for (const [at, held] of between) gather(found, `${before} ${after} ${held}`, at)
    between = []
    before = after
  }
  for (const [at, item] of told.items[side].entries()) {
    if (links.partner(side, at, other) >= 0) {
      closeAt(links.classOf(side, at))
      continue
    }
    const held = told.isByName(side, at) ? heldBy(item.value) : undefined
    if (held !== undefined) between.push([at, held])
  }
  closeAt(-1)
  return found
}

/** What a key holds; undefined for elements and sections that hold entries. */
function heldBy({ kind, text, parts: [held] }: Value): string | undefined {
  if (kind === Kind.Member) return `${kind} ${held?.id}`
  return text === undefined ? undefined : `${kind} ${text}`
}
