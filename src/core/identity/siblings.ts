import { sampled } from '../likeness/sampled.ts'
import type { Doc } from '../formats/doc.ts'

/** The siblings of one name in each container at one place of one document. */
export type SiblingGroups = readonly (readonly number[])[]

/** About so many entries of each document are looked at for candidates: the first may lack what all others have. */
const LOOKED_AT = 8

/** The siblings at one place of all documents. */
export class Siblings {
  /** How many the document with the most has. */
  readonly most: number
  private readonly counts: readonly number[]

  constructor(
    readonly docs: readonly Doc[],
    readonly groups: readonly SiblingGroups[],
  ) {
    this.counts = groups.map((each) => each.reduce((sum, siblings) => sum + siblings.length, 0))
    this.most = Math.max(0, ...this.counts)
  }

  /** Some entries of each document, the first among them. */
  *leading(): Iterable<{ doc: Doc; node: number }> {
    const { docs, groups } = this
    for (const [d, doc] of docs.entries()) {
      if (docs.indexOf(doc) < d) continue
      const fullest = groups[d]?.reduce((a, b) => (b.length > a.length ? b : a), []) ?? []
      for (const node of sampled(fullest, LOOKED_AT)) yield { doc, node }
    }
  }

  /** How many there are in a document. */
  count(d: number): number {
    return this.counts[d] ?? 0
  }
}
