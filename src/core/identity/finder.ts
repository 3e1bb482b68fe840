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
  const all: Found[] = []
  const known = new Map<Doc, Found>()
  for (const [d, doc] of siblings.docs.entries()) {
    const allowed = tolerated(siblings.count(d))
    const found = known.get(doc) ?? inDocument(doc, siblings.groups[d] ?? [], identity, allowed)
    if (found === undefined) return undefined
    if (found.nodes.size > 0) all.push(found)
    known.set(doc, found)
  }
  return all
}

/** The siblings of a document, each container by itself; undefined where more than are allowed have none. */
function inDocument(
  doc: Doc,
  groups: SiblingGroups,
  identity: IdentityExpression,
  allowed: number,
): Found | undefined {
  const found = new Map<string, number>()
  let bad = 0
  for (const nodes of groups) {
    const own = groups.length === 1 ? found : new Map<string, number>()
    for (const node of nodes) {
      const value = identityText(doc, node, identity)
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
