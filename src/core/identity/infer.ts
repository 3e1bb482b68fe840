import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityOf, parseIdentity } from './expression.ts'
import { featuresOf, similarity } from './likeness.ts'

/** Names that authors of data files customarily give to what identifies an entry, the likeliest first. */
const CUSTOMARY = ['id', 'uid', 'guid', 'name', 'key', 'type', 'code', 'title']

/** So many candidates are tried in pairs. */
const MOST_PAIRED = 5

/** So many entries are compared to see whether an identity finds the same ones again. */
const SAMPLE = 40

/** The siblings of one name in each container at one place of one document. */
export type SiblingGroups = readonly (readonly number[])[]

interface Judged {
  identity: IdentityExpression
  /** How many identities occur in every document that has such entries. */
  shared: number
  order: number
  /** Whether all of them are numbers. */
  numeric: boolean
  /** From 0 to 1: how alike the entries are that it takes for one. A running number finds strangers. */
  agreement: number
}

/**
 * The identity that tells the entries of one place apart in all documents (DESIGN: present on every
 * sibling and unique among them). A few siblings without one, or with one that is taken, are put up
 * with, in each document by itself: one slip of a hand must not change the keys of a thousand entries, and
 * what a carry puts right must not change them when it is repeated. Undefined where nothing will do.
 */
export function inferIdentity(
  docs: readonly Doc[],
  groups: readonly SiblingGroups[],
): IdentityExpression | undefined {
  if (groups.every((inDocument) => inDocument.every((siblings) => siblings.length < 2)))
    return undefined
  const singles = candidates(docs, groups)
  const best = bestOf(singles, docs, groups)
  return (best ?? bestOf(pairsOf(singles, docs, groups), docs, groups))?.identity
}

function bestOf(
  texts: readonly string[],
  docs: readonly Doc[],
  groups: readonly SiblingGroups[],
): Judged | undefined {
  let best: Judged | undefined
  for (const [order, text] of texts.entries()) {
    const judged = judge(parseIdentity(text), order, docs, groups)
    if (judged !== undefined && (best === undefined || isBetter(judged, best))) best = judged
  }
  return best
}

/** Two candidates together, where neither tells entries apart but both are on all of them. */
function pairsOf(
  texts: readonly string[],
  docs: readonly Doc[],
  groups: readonly SiblingGroups[],
): string[] {
  const present = texts
    .filter((text) => !text.includes('/'))
    .filter((text) => {
      const identity = parseIdentity(text)
      return docs.every((doc, d) =>
        groups[d]?.every((all) =>
          all.every((entry) => identityOf(doc, entry, identity) !== undefined),
        ),
      )
    })
    .sort((a, b) => customaryRank(a) - customaryRank(b))
    .slice(0, MOST_PAIRED)
  if (!present.some(isNamed)) return []
  return present.flatMap((one, i) => present.slice(i + 1).map((other) => `${one}|${other}`))
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
function weight({ identity, shared, numeric, agreement }: Judged): number {
  const found = shared * agreement
  if (customaryRank(identity.text) < CUSTOMARY.length) return found * 2
  return numeric ? found / 2 : found
}

function customaryRank(text: string): number {
  const rank = CUSTOMARY.indexOf(lastStep(text))
  return (rank < 0 ? CUSTOMARY.length : rank) + (text.includes('/') ? CUSTOMARY.length : 0)
}

/** The name that an identity ends in, in small letters. */
function lastStep(text: string): string {
  return text
    .slice(text.lastIndexOf('/') + 1)
    .replace('@', '')
    .toLowerCase()
}

/** So many entries of each document are looked at for candidates: the first alone may lack what all others have. */
const LOOKED_AT = 3

/** Attributes, texts of children and members of the first entries, then those one level down. */
function candidates(docs: readonly Doc[], groups: readonly SiblingGroups[]): string[] {
  const found = new Set<string>()
  const deeper = new Set<string>()
  docs.forEach((doc, d) => {
    const fullest = groups[d]?.reduce((a, b) => (b.length > a.length ? b : a), []) ?? []
    for (const entry of fullest.slice(0, LOOKED_AT)) collect(doc, entry, '', found, deeper)
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
  if (doc.kind(entry) === Kind.Array) {
    into.add(`${prefix}[0]`)
    return
  }
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
  const perDocument: Found[] = []
  for (const [d, doc] of docs.entries()) {
    const total = (groups[d] ?? []).reduce((sum, siblings) => sum + siblings.length, 0)
    let allowed = tolerated(total)
    const entries = new Map<string, number>()
    for (const siblings of groups[d] ?? []) {
      allowed -= countBad(doc, siblings, { identity, entries, allowed })
      if (allowed < 0) return undefined
    }
    if (entries.size > 0) perDocument.push({ doc, entries })
  }
  if (!isNamed(identity.text) && !perDocument.every(({ entries }) => holdNames(entries)))
    return undefined
  const isNumber = (value: string): boolean => /^[-0-9.]+$/.test(value)
  const numeric = perDocument.every(({ entries }) => [...entries.keys()].every(isNumber))
  const shared = sharedValues(perDocument)
  return {
    identity,
    order,
    numeric,
    shared: shared.length,
    agreement: agreementOf(perDocument, shared),
  }
}

/** Whether an identity has a customary name in it: then its values are not judged. */
function isNamed(text: string): boolean {
  return text.split('|').some((part) => CUSTOMARY.includes(lastStep(part)))
}

/** A customary name apart, what tells entries apart looks like a name: no measures, no descriptions. */
function holdNames(entries: ReadonlyMap<string, number>): boolean {
  let names = 0
  for (const value of entries.keys())
    if (LIKE_A_NAME.test(value) && !LIKE_MEASURES.test(value)) names++
  return names >= entries.size * 0.9
}

/** Up to four words, none of them endless. */
const LIKE_A_NAME = /^\S{1,120}( \S{1,60}){0,3}$/
/** Numbers and what parts them: a size, a place, a colour, an outline. */
const LIKE_MEASURES = /^[-+.0-9eE%,;()#\s]*$|^[a-z]+\([-.0-9, ]*\)$|^#[0-9a-fA-F]{3,8}$/

/** Entries of one document by their identity. */
interface Found {
  doc: Doc
  entries: Map<string, number>
}

/** How many siblings have no identity of their own, at most one more than are allowed; the others go into `entries`. */
function countBad(
  doc: Doc,
  siblings: readonly number[],
  into: { identity: IdentityExpression; entries: Map<string, number>; allowed: number },
): number {
  const own = new Set<string>()
  let bad = 0
  for (const entry of siblings) {
    const value = identityOf(doc, entry, into.identity)?.join('\0')
    if (value === undefined || own.has(value)) {
      if (++bad > into.allowed) return bad
    } else {
      own.add(value)
      into.entries.set(value, entry)
    }
  }
  return bad
}

function tolerated(total: number): number {
  return total < 6 ? 0 : Math.max(1, Math.floor(total * 0.03))
}

/** The identities that occur in every document. */
function sharedValues(perDocument: readonly Found[]): string[] {
  const [first, ...others] = perDocument
  if (first === undefined) return []
  return [...first.entries.keys()].filter((value) =>
    others.every(({ entries }) => entries.has(value)),
  )
}

/** The mean likeness of entries of one identity in the first document and in each other, over a sample. */
function agreementOf(perDocument: readonly Found[], shared: readonly string[]): number {
  const [first, ...others] = perDocument
  if (first === undefined || others.length === 0 || shared.length === 0) return 1
  const step = Math.max(1, Math.floor(shared.length / SAMPLE))
  let sum = 0
  let count = 0
  for (let at = 0; at < shared.length; at += step) {
    const value = shared[at] ?? ''
    const features = featuresOf(first.doc, first.entries.get(value) ?? 0)
    for (const { doc, entries } of others) {
      sum += similarity(features, featuresOf(doc, entries.get(value) ?? 0))
      count++
    }
  }
  return sum / count
}
