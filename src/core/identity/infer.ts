import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityOf, parseIdentity } from './expression.ts'

/** Names that authors of data files customarily give to what identifies an entry, the likeliest first. */
const CUSTOMARY = ['id', 'uid', 'guid', 'name', 'key', 'type', 'code', 'title']

/** The siblings of one name in each container at one place of one document. */
export type SiblingGroups = readonly (readonly number[])[]

interface Judged {
  identity: IdentityExpression
  /** How many identities occur in every document that has such entries. */
  shared: number
  order: number
  /** Whether all of them are numbers. */
  numeric: boolean
}

/**
 * The identity that tells the entries of one place apart in all documents (DESIGN: present on every
 * sibling and unique among them). A few siblings without one, or with one that is taken, are put up
 * with: one slip of a hand must not change the keys of a thousand entries. Undefined where nothing will do.
 */
export function inferIdentity(
  docs: readonly Doc[],
  groups: readonly SiblingGroups[],
): IdentityExpression | undefined {
  if (groups.every((inDocument) => inDocument.every((siblings) => siblings.length < 2)))
    return undefined
  let best: Judged | undefined
  for (const [order, text] of candidates(docs, groups).entries()) {
    const judged = judge(parseIdentity(text), order, docs, groups)
    if (judged !== undefined && (best === undefined || isBetter(judged, best))) best = judged
  }
  return best?.identity
}

function isBetter(a: Judged, b: Judged): boolean {
  if (weight(a) !== weight(b)) return weight(a) > weight(b)
  const rank = (judged: Judged): number => customaryRank(judged.identity.text)
  return rank(a) !== rank(b) ? rank(a) < rank(b) : a.order < b.order
}

/**
 * How much speaks for an identity: how many entries it finds again, twice for a customary name (an
 * author calls `name` what names), half for what is nothing but numbers (a depth that happens to differ).
 */
function weight({ identity, shared, numeric }: Judged): number {
  if (customaryRank(identity.text) < CUSTOMARY.length) return shared * 2
  return numeric ? shared / 2 : shared
}

function customaryRank(text: string): number {
  const last = text
    .slice(text.lastIndexOf('/') + 1)
    .replace('@', '')
    .toLowerCase()
  const rank = CUSTOMARY.indexOf(last)
  return (rank < 0 ? CUSTOMARY.length : rank) + (text.includes('/') ? CUSTOMARY.length : 0)
}

/** Attributes, texts of children and members of the first entries, then those one level down. */
function candidates(docs: readonly Doc[], groups: readonly SiblingGroups[]): string[] {
  const found = new Set<string>()
  const deeper = new Set<string>()
  docs.forEach((doc, d) => {
    const first = groups[d]?.find((siblings) => siblings.length > 0)?.[0]
    if (first !== undefined) collect(doc, first, '', found, deeper)
  })
  return [...found, ...deeper]
}

function collect(
  doc: Doc,
  entry: number,
  prefix: string,
  found: Set<string>,
  deeper: Set<string>,
): void {
  const into = prefix === '' ? found : deeper
  for (const child of doc.children(entry)) {
    const name = doc.name(child)
    switch (doc.kind(child)) {
      case Kind.Attribute:
        into.add(`${prefix}@${name}`)
        break
      case Kind.Element:
        if (doc.isLeafElement(child)) into.add(prefix + name)
        if (prefix === '') collect(doc, child, `${name}/`, found, deeper)
        break
      case Kind.Member: {
        const value = doc.memberValue(child)
        if (isNameLike(doc, value)) into.add(prefix + name)
        if (prefix === '' && doc.kind(value) === Kind.Object)
          collect(doc, value, `${name}/`, found, deeper)
        break
      }
      default:
        break
    }
  }
}

function isNameLike(doc: Doc, value: number): boolean {
  return doc.kind(value) === Kind.Scalar && !['true', 'false', 'null'].includes(doc.value(value))
}

function judge(
  identity: IdentityExpression,
  order: number,
  docs: readonly Doc[],
  groups: readonly SiblingGroups[],
): Judged | undefined {
  let total = 0
  let bad = 0
  const perDocument: Set<string>[] = []
  for (const [d, doc] of docs.entries()) {
    const values = new Set<string>()
    for (const siblings of groups[d] ?? []) {
      total += siblings.length
      bad += countBad(doc, siblings, identity, values)
    }
    if (values.size > 0) perDocument.push(values)
  }
  if (bad > tolerated(total)) return undefined
  const numeric = perDocument.every((values) =>
    [...values].every((value) => /^[-0-9.]+$/.test(value)),
  )
  return { identity, order, numeric, shared: countShared(perDocument) }
}

/** How many siblings have no identity of their own; the others' identities go into `values`. */
function countBad(
  doc: Doc,
  siblings: readonly number[],
  identity: IdentityExpression,
  values: Set<string>,
): number {
  const own = new Set<string>()
  let bad = 0
  for (const entry of siblings) {
    const value = identityOf(doc, entry, identity)?.join('\0')
    if (value === undefined || own.has(value)) bad++
    else own.add(value)
  }
  for (const value of own) values.add(value)
  return bad
}

function tolerated(total: number): number {
  return total < 6 ? 0 : Math.max(1, Math.floor(total * 0.03))
}

function countShared(perDocument: readonly Set<string>[]): number {
  const [first, ...others] = perDocument
  if (first === undefined) return 0
  let shared = 0
  for (const value of first) if (others.every((values) => values.has(value))) shared++
  return shared
}
