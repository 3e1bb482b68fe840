import { nearest } from '../keys/nearest.ts'
import { alike, howTheyDiffer } from './alike-texts.ts'
import type { Standing } from './scope.ts'

/** What a name misses by that is not known. */
export interface NearMiss {
  nearest: string | undefined
  /** The end of a message: the known name that looks alike, and in what it differs; may be empty. */
  butAlike: string
}

/** Looks names up among the values that stand somewhere; undefined of a name that is known. */
export function knownNames(standing: readonly Standing[]): (name: string) => NearMiss | undefined {
  const known = new Set(standing.flatMap(({ value }) => (value === undefined ? [] : [value])))
  const byLook = new Map([...known].map((value) => [alike(value), value]))
  return (name) => {
    if (known.has(name)) return undefined
    const near = byLook.get(alike(name)) ?? nearest(name, [...known])
    const how = near === undefined ? undefined : howTheyDiffer(name, near)
    const butAlike = how === undefined ? '' : `; ${near ?? ''} is, which differs in ${how}`
    return { nearest: near, butAlike }
  }
}
