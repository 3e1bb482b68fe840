import { firstNotBefore } from '../document/ascending.ts'
import type { Tree } from '../document/tree.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityText } from './expression.ts'
import type { SiblingGroups, Siblings } from './siblings.ts'

/** The entries of one document by their identity; of several containers' with one identity the last. */
export interface Found {
  doc: Doc
  nodes: ReadonlyMap<string, number>
}

/**
 * Looks an identity up on all siblings; gives the entries of each document that has any, or undefined
 * where too many have no identity of their own.
 */
export function findBy(identity: IdentityExpression, siblings: Siblings): Found[] | undefined {
  const { docs, groups } = siblings
  const values = new IdentityValues(identity, docs[0]?.tree)
  const all: Found[] = []
  const known = new Map<Doc, Found>()
  for (const [d, doc] of docs.entries()) {
    const allowed = tolerated(siblings.count(d))
    const found = known.get(doc) ?? inDocument(doc, groups[d] ?? [], values, allowed)
    if (found === undefined) return undefined
    if (found.nodes.size > 0) all.push(found)
    known.set(doc, found)
  }
  return all
}

/** Identities of entries; what was copied from the first document's tree has the identity that it has there. */
class IdentityValues {
  /** The first document's entries, in their order, and their identities. */
  private readonly nodes: number[] = []
  private readonly values: (string | undefined)[] = []

  constructor(
    private readonly identity: IdentityExpression,
    private readonly first: Tree | undefined,
  ) {}

  of(doc: Doc, node: number): string | undefined {
    const { first, nodes } = this
    if (first === undefined || doc.tree === first) {
      const value = identityText(doc, node, this.identity)
      nodes.push(node)
      this.values.push(value)
      return value
    }
    const origin = doc.tree.originOf(node, first)
    const at = origin < 0 ? -1 : firstNotBefore(nodes, origin)
    return nodes[at] === origin ? this.values[at] : identityText(doc, node, this.identity)
  }
}

/** The siblings of a document, each container by itself; undefined where more than are allowed have none. */
function inDocument(
  doc: Doc,
  groups: SiblingGroups,
  values: IdentityValues,
  allowed: number,
): Found | undefined {
  const found = new Map<string, number>()
  let bad = 0
  for (const nodes of groups) {
    const own = groups.length === 1 ? found : new Map<string, number>()
    for (const node of nodes) {
      const value = values.of(doc, node)
      if (value === undefined || own.has(value)) {
        if (++bad > allowed) return undefined
        continue
      }
      own.set(value, node)
      found.set(value, node)
    }
  }
  return { doc, nodes: found }
}

function tolerated(total: number): number {
  return total < 6 ? 0 : Math.max(1, Math.floor(total * 0.03))
}
