import type { Doc } from '../formats/doc.ts'

/** The siblings of one name in each container at one place of one document. */
export type SiblingGroups = readonly (readonly number[])[]

/** So many entries of each document are looked at for candidates: the first alone may lack what all others have. */
const LOOKED_AT = 3

/** The siblings at one place of all documents. */
export class Siblings {
  /** As many identities as all documents can share at most. */
  readonly most: number

  constructor(
    readonly docs: readonly Doc[],
    readonly groups: readonly SiblingGroups[],
  ) {
    const totals = groups.map((_, d) => this.count(d)).filter((total) => total > 0)
    this.most = Math.min(...totals)
  }

  /** The first entries of each document. */
  *leading(): Iterable<{ doc: Doc; node: number }> {
    const { docs, groups } = this
    for (const [d, doc] of docs.entries()) {
      if (docs.indexOf(doc) < d) continue
      const fullest = groups[d]?.reduce((a, b) => (b.length > a.length ? b : a), []) ?? []
      for (const node of fullest.slice(0, LOOKED_AT)) yield { doc, node }
    }
  }

  /** How many there are in a document. */
  count(d: number): number {
    return (this.groups[d] ?? []).reduce((sum, siblings) => sum + siblings.length, 0)
  }
}
