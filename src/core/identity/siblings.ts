import type { Doc } from '../formats/doc.ts'
import { linkEqual } from './links.ts'

/** The siblings of one name in each container at one place of one document. */
export type SiblingGroups = readonly (readonly number[])[]

/**
 * Siblings that a document has as the first one has them, and that are left out of its nodes; of the one
 * container at a place.
 */
export interface LeftOut {
  /** Ranges of them, by their rank among the first document's siblings. */
  from: readonly number[]
  stop: readonly number[]
  /** The first of all siblings, those with a node of their own among them, each in a document that has its nodes. */
  leading: readonly { doc: Doc; node: number }[]
}

/** What is left out of each document's siblings; undefined where nothing is. */
export type AllLeftOut = readonly (LeftOut | undefined)[]

/** So many entries of each document are looked at for candidates: the first alone may lack what all others have. */
export const LOOKED_AT = 3

/** The siblings at one place of all documents, with those linked that have the same text as in the first. */
export class Siblings {
  /** As many identities as all documents can share at most. */
  readonly most: number
  /** Whether something was asked that only those that are left out could tell. */
  areTooFew = false
  private readonly links = new Map<readonly number[], Int32Array>()

  constructor(
    readonly docs: readonly Doc[],
    readonly groups: readonly SiblingGroups[],
    readonly leftOut: AllLeftOut,
  ) {
    const totals = groups.map((_, d) => this.count(d)).filter((total) => total > 0)
    this.most = Math.min(...totals)
    const [first, ...others] = docs
    for (const [d, doc] of others.entries()) {
      for (const [g, nodes] of (groups[d + 1] ?? []).entries()) {
        const before = groups[0]?.[g]
        if (first === undefined || before === undefined || leftOut[d + 1] !== undefined) continue
        const a = { tree: first.tree, nodes: before }
        this.links.set(nodes, linkEqual(a, { tree: doc.tree, nodes }))
      }
    }
  }

  /** For each sibling of a group the one of the first document with the same text, or -1. */
  linksOf(siblings: readonly number[]): Int32Array | undefined {
    return this.links.get(siblings)
  }

  /** The first entries of each document. */
  *leading(): Iterable<{ doc: Doc; node: number }> {
    const { docs, groups, leftOut } = this
    for (const [d, doc] of docs.entries()) {
      if (docs.indexOf(doc) < d) continue
      const fullest = groups[d]?.reduce((a, b) => (b.length > a.length ? b : a), []) ?? []
      const own = fullest.slice(0, LOOKED_AT).map((node) => ({ doc, node }))
      yield* leftOut[d]?.leading ?? own
    }
  }

  /** How many there are in a document. */
  count(d: number): number {
    const own = (this.groups[d] ?? []).reduce((sum, siblings) => sum + siblings.length, 0)
    const { from = [], stop = [] } = this.leftOut[d] ?? {}
    return from.reduce((sum, first, i) => sum + (stop[i] ?? 0) - first, own)
  }
}
