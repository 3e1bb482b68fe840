import type { Side } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { sharedValues } from '../likeness/shared-values.ts'
import type { Alike } from './alike.ts'

/** Pairs of items of two documents that share so many values which few others have: only those can be much alike. */
export function sharing(
  alike: Alike,
  [a, ones]: readonly [Side, readonly number[]],
  [b, others]: readonly [Side, readonly number[]],
  least: number,
): [number, number][] {
  const shared = sharedValues(
    ones.map((at) => alike.featuresOf(a, at)),
    others.map((at) => alike.featuresOf(b, at)),
    least,
  )
  return shared.map(({ one, other }) => [surely(ones[one]), surely(others[other])])
}
