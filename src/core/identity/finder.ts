import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityText } from './expression.ts'
import type { Found } from './found.ts'
import { FoundByLink, FoundByValue, FoundInTable, LEFT_OUT } from './found.ts'
import type { Ranks } from './identity-table.ts'
import { IdentityTable } from './identity-table.ts'
import type { LeftOut, SiblingGroups, Siblings } from './siblings.ts'

/** Where each entry of one container stands, told by an identity that all of them have and none shares. */
export interface EntryIndex {
  doc: Doc
  nodes: readonly number[]
  /** The index of a node by its identity. */
  ranks: Ranks
}

/** Looks up an identity on all siblings, document by document. */
export class Finder {
  /** Of the first document's siblings, where they stand in one container and each has an identity. */
  index: EntryIndex | undefined
  private first: IdentityTable | undefined

  constructor(
    private readonly identity: IdentityExpression,
    private readonly siblings: Siblings,
  ) {}

  /** The entries of each document that has any; undefined where too many have no identity of their own. */
  find(): Found[] | undefined {
    const { docs } = this.siblings
    const all: Found[] = []
    const known = new Map<Doc, Found>()
    for (const [d, doc] of docs.entries()) {
      const found = known.get(doc) ?? this.inDocument(doc, d)
      if (found === undefined) return undefined
      if (found.size > 0) all.push(found)
      known.set(doc, found)
    }
    return all
  }

  private inDocument(doc: Doc, d: number): Found | undefined {
    const { siblings } = this
    const groups = siblings.groups[d] ?? []
    const allowed = tolerated(siblings.count(d))
    const [only] = groups
    if (only === undefined || groups.length > 1) return this.byValue(doc, groups, allowed)
    const leftOut = siblings.leftOut[d]
    const links = siblings.linksOf(only)
    if (d > 0 && this.first !== undefined && (links !== undefined || leftOut !== undefined))
      return this.byLink(new FoundByLink(doc, this.first), only, { links, leftOut }, allowed)
    if (leftOut !== undefined) {
      siblings.areTooFew = true
      return undefined
    }
    const found = this.inTable(doc, only, allowed)
    if (d === 0 && found?.size === only.length) {
      this.first = found.table
      this.index = { doc, nodes: only, ranks: found.table }
    }
    return found
  }

  /** The siblings of one container; undefined where more than are allowed have no identity of their own. */
  private inTable(doc: Doc, nodes: readonly number[], allowed: number): FoundInTable | undefined {
    const table = new IdentityTable(doc, this.identity, nodes.length)
    const found: number[] = []
    let bad = 0
    for (const node of nodes) {
      if (table.add(node)) found.push(node)
      else if (++bad > allowed) return undefined
    }
    return new FoundInTable(doc, table, found)
  }

  /** The same of several containers, each by itself. */
  private byValue(doc: Doc, groups: SiblingGroups, allowed: number): FoundByValue | undefined {
    const found = new FoundByValue(doc)
    let bad = 0
    for (const nodes of groups) {
      const own = new Set<string>()
      for (const node of nodes) {
        const value = identityText(doc, node, this.identity)
        if (value === undefined || own.has(value)) {
          if (++bad > allowed) return undefined
        } else {
          own.add(value)
          found.add(value, node)
        }
      }
    }
    return found
  }

  /** The same where the first document's siblings all have one: what is linked or left out has that one's. */
  private byLink(
    found: FoundByLink,
    nodes: readonly number[],
    { links, leftOut }: { links: Int32Array | undefined; leftOut: LeftOut | undefined },
    allowed: number,
  ): Found | undefined {
    const { from = [], stop = [] } = leftOut ?? {}
    for (let i = 0; i < from.length; i++)
      for (let rank = from[i] ?? 0; rank < (stop[i] ?? 0); rank++) found.link(rank, LEFT_OUT)
    const others: number[] = []
    for (let i = 0; i < nodes.length; i++) {
      const linked = links?.[i] ?? -1
      if (linked >= 0) found.link(linked, nodes[i] ?? 0)
      else others.push(nodes[i] ?? 0)
    }
    let bad = 0
    for (const node of others) {
      const value = identityText(found.doc, node, this.identity)
      if (value !== undefined && !found.has(value)) found.add(value, node)
      else if (++bad > allowed) return undefined
    }
    return found
  }
}

function tolerated(total: number): number {
  return total < 6 ? 0 : Math.max(1, Math.floor(total * 0.03))
}
