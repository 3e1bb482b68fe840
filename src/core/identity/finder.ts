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

/** What an identity finds in one document. */
export interface Held extends Found {
  /** The entries of each container that alone have their identity there. */
  inContainers: readonly ReadonlyMap<string, number>[]
  /** The identities of all entries that have one, in order. */
  values: readonly string[]
}

/** Of so many entries in a hundred an identity may be another's, too: one slip of a hand. */
const SLIPS = 0.03

/**
 * Looks an identity up on all siblings; gives what it finds in each document, or undefined where one has
 * entries of which fewer than half have it, or in which more than slips share it.
 */
export function findBy(identity: IdentityExpression, siblings: Siblings): Held[] | undefined {
  return findIn(identity, siblings, (total) => ({
    lacking: Math.floor(total / 2),
    shared: slipsOf(total),
  }))
}

/** Looks an identity up on all siblings, though most may lack it, or share it. */
export function findPartly(identity: IdentityExpression, siblings: Siblings): Held[] {
  return findIn(identity, siblings, (total) => ({ lacking: total, shared: total })) ?? []
}

/** How many entries of a document may lack an identity, and how many may have one that another has. */
interface Allowed {
  lacking: number
  shared: number
}

function findIn(
  identity: IdentityExpression,
  siblings: Siblings,
  allowedOf: (total: number) => Allowed,
): Held[] | undefined {
  const { docs, groups } = siblings
  const values = new IdentityValues(identity, docs[0]?.tree)
  const all: Held[] = []
  const known = new Map<Doc, Held>()
  for (const [d, doc] of docs.entries()) {
    const allowed = allowedOf(siblings.count(d))
    const held = known.get(doc) ?? inDocument(doc, groups[d] ?? [], values, allowed)
    if (held === undefined) return undefined
    all.push(held)
    known.set(doc, held)
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

/** The siblings of a document, each container by itself. */
function inDocument(
  doc: Doc,
  groups: SiblingGroups,
  identities: IdentityValues,
  allowed: Allowed,
): Held | undefined {
  const nodes = new Map<string, number>()
  const inContainers: Map<string, number>[] = []
  const values: string[] = []
  let [lacking, shared] = [0, 0]
  for (const entries of groups) {
    const own = groups.length === 1 ? nodes : new Map<string, number>()
    const repeated: string[] = []
    for (const node of entries) {
      const value = identities.of(doc, node)
      if (value === undefined) {
        if (++lacking > allowed.lacking) return undefined
        continue
      }
      values.push(value)
      if (own.has(value)) {
        if (++shared > allowed.shared) return undefined
        repeated.push(value)
        continue
      }
      own.set(value, node)
      nodes.set(value, node)
    }
    inContainers.push(repeated.length === 0 ? own : without(own, repeated))
  }
  return { doc, nodes, inContainers, values }
}

function without(all: ReadonlyMap<string, number>, values: readonly string[]): Map<string, number> {
  const left = new Map(all)
  for (const value of values) left.delete(value)
  return left
}

function slipsOf(total: number): number {
  return total < 6 ? 0 : Math.max(1, Math.floor(total * SLIPS))
}
