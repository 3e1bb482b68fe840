import { gather } from '../document/gather.ts'
import type { Features } from './features.ts'

/** A value that more entries have tells nothing of which is which. */
const MOST_OWNERS = 4

/** Two entries by their ranks, and how many values they share that few others have. */
export interface Shared {
  one: number
  other: number
  times: number
}

/** Pairs of entries of two documents that share so many values which few others have, by what they hold. */
export function sharedValues(
  ones: readonly Features[],
  others: readonly Features[],
  least: number,
): Shared[] {
  const owners = new Map<number, number[]>()
  for (const [other, { values }] of others.entries())
    for (const value of values) gather(owners, value, other)
  return ones.flatMap(({ values }, one) => {
    const found = new Map<number, number>()
    for (const value of values) {
      const having = owners.get(value) ?? []
      if (having.length <= MOST_OWNERS)
        for (const other of having) found.set(other, (found.get(other) ?? 0) + 1)
    }
    return [...found]
      .filter(([, times]) => times >= least)
      .map(([other, times]) => ({ one, other, times }))
  })
}
