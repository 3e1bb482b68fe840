import { gather } from '../document/gather.ts'
import type { Side } from '../document/sides.ts'
import type { Alike } from './alike.ts'

/** A value that more entries have tells nothing of which is which. */
const MOST_OWNERS = 4

/** Pairs that share so many values which few others have: only those can be much alike. */
export function sharing(
  alike: Alike,
  [a, ones]: readonly [Side, readonly number[]],
  [b, others]: readonly [Side, readonly number[]],
  least: number,
): [number, number][] {
  const owners = new Map<number, number[]>()
  for (const j of others)
    for (const value of alike.featuresOf(b, j).values) gather(owners, value, j)
  return ones.flatMap((i) => {
    const found = new Map<number, number>()
    for (const value of alike.featuresOf(a, i).values) {
      const having = owners.get(value) ?? []
      if (having.length <= MOST_OWNERS)
        for (const j of having) found.set(j, (found.get(j) ?? 0) + 1)
    }
    return [...found].filter(([, times]) => times >= least).map(([j]): [number, number] => [i, j])
  })
}
