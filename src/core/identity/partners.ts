import { timesOf } from '../document/gather.ts'
import type { IdentityExpression } from './expression.ts'
import type { Held } from './finder.ts'

/** What may be the identity of the entries of a place, and what it finds in each document. */
export interface Candidate {
  identity: IdentityExpression
  held: readonly Held[]
}

/** An entry of the first document and the one that a candidate takes for the same in another. */
export type Partners = readonly [a: number, b: number]

/**
 * The entries that a candidate takes for one: in containers of one rank where both documents have as many,
 * else those of an identity that each document has once.
 */
export function partnersOf({ held }: Candidate, d: number): Partners[] {
  const [first, other] = [held[0], held[d]]
  if (first === undefined || other === undefined) return []
  const found: Partners[] = []
  if (first.inContainers.length === other.inContainers.length) {
    for (const [k, entries] of first.inContainers.entries())
      for (const [value, node] of entries) {
        const partner = other.inContainers[k]?.get(value)
        if (partner !== undefined) found.push([node, partner])
      }
    return found
  }
  const [inFirst, inOther] = [once(first), once(other)]
  for (const [value, node] of inFirst) {
    const partner = inOther.get(value)
    if (partner !== undefined) found.push([node, partner])
  }
  return found
}

/** Identities that one entry of a document has, in whichever container. */
function once({ values, nodes }: Held): Map<string, number> {
  const times = timesOf(values)
  return new Map([...nodes].filter(([value]) => times.get(value) === 1))
}
