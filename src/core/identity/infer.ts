import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityOf, identityText, parseIdentity } from './expression.ts'
import type { Found } from './found.ts'
import { FoundByLink, FoundByValue, FoundInTable, LEFT_OUT } from './found.ts'
import type { Ranks } from './identity-table.ts'
import { IdentityTable } from './identity-table.ts'
import { featuresOf, similarity } from './likeness.ts'
import { linkEqual, sameSlice } from './links.ts'

/** Names that authors of data files customarily give to what identifies an entry, the likeliest first. */
const CUSTOMARY = ['id', 'uid', 'guid', 'name', 'key', 'type', 'code', 'title']

/** So many candidates are tried in pairs. */
const MOST_PAIRED = 5

/** So many entries are compared to see whether an identity finds the same ones again. */
const SAMPLE = 40

/** Where each entry of one container stands, told by an identity that all of them have and none shares. */
export interface EntryIndex {
  doc: Doc
  nodes: readonly number[]
  /** The index of a node by its identity. */
  ranks: Ranks
}

/** An identity, and an index of the first document's entries where they stand in one container. */
export interface Inferred {
  identity: IdentityExpression
  index: EntryIndex | undefined
}

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
type AllLeftOut = readonly (LeftOut | undefined)[]

interface Judged {
  identity: IdentityExpression
  index: EntryIndex | undefined
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
): Inferred | undefined {
  if (groups.every((inDocument) => inDocument.every((siblings) => siblings.length < 2)))
    return undefined
  return infer(new Siblings(docs, groups, []))
}

/**
 * The same for one container of which other documents than the first have but those siblings that the
 * first has not; undefined where it cannot be told without all of them.
 */
export function inferFromSome(
  docs: readonly Doc[],
  siblings: readonly (readonly number[])[],
  leftOut: AllLeftOut,
): { inferred: Inferred | undefined } | undefined {
  const all = new Siblings(
    docs,
    siblings.map((nodes) => [nodes]),
    leftOut,
  )
  const inferred = infer(all)
  return all.areTooFew ? undefined : { inferred }
}

/** An index of one container's entries by an identity; undefined where one has none of its own. */
export function indexBy(
  identity: IdentityExpression,
  doc: Doc,
  nodes: readonly number[],
): EntryIndex | undefined {
  const finder = new Finder(identity, new Siblings([doc], [[nodes]], []))
  return finder.find() === undefined ? undefined : finder.index
}

function infer(siblings: Siblings): Inferred | undefined {
  const singles = candidates(siblings)
  return bestOf(singles, siblings) ?? bestOf(pairsOf(singles, siblings), siblings)
}

/** The siblings at one place of all documents, with those linked that have the same text as in the first. */
class Siblings {
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

  /** How many there are in a document. */
  count(d: number): number {
    const own = (this.groups[d] ?? []).reduce((sum, siblings) => sum + siblings.length, 0)
    const { from = [], stop = [] } = this.leftOut[d] ?? {}
    return from.reduce((sum, first, i) => sum + (stop[i] ?? 0) - first, own)
  }
}

/** The best of the candidates; those that cannot be better than what was found are not judged. */
function bestOf(texts: readonly string[], siblings: Siblings): Judged | undefined {
  let best: Judged | undefined
  const ranked = texts
    .map((text, order) => ({ text, order, customary: customaryRank(text) < CUSTOMARY.length }))
    .sort((a, b) => Number(b.customary) - Number(a.customary))
  for (const { text, order, customary } of ranked) {
    if (best !== undefined && !customary && weight(best) >= siblings.most) break
    const judged = judge(parseIdentity(text), order, siblings)
    if (judged !== undefined && (best === undefined || isBetter(judged, best))) best = judged
  }
  return best
}

/** Two candidates together, where neither tells entries apart but both are on all of them. */
function pairsOf(texts: readonly string[], { docs, groups }: Siblings): string[] {
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
export const LOOKED_AT = 3

/** Attributes, texts of children and members of the first entries, then those one level down. */
function candidates({ docs, groups, leftOut }: Siblings): string[] {
  const found = new Set<string>()
  const deeper = new Set<string>()
  docs.forEach((doc, d) => {
    if (docs.indexOf(doc) < d) return
    const fullest = groups[d]?.reduce((a, b) => (b.length > a.length ? b : a), []) ?? []
    const leading =
      leftOut[d]?.leading ?? fullest.slice(0, LOOKED_AT).map((node) => ({ doc, node }))
    for (const entry of leading) collect(entry.doc, entry.node, '', found, deeper)
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
  siblings: Siblings,
): Judged | undefined {
  const finder = new Finder(identity, siblings)
  const perDocument = finder.find()
  if (perDocument === undefined) return undefined
  if (!isNamed(identity.text) && !perDocument.every(holdNames)) return undefined
  const shared = sharedRanks(perDocument)
  return {
    identity,
    index: finder.index,
    order,
    numeric: perDocument.every(holdsNumbers),
    shared: shared.length,
    agreement: agreementOf(perDocument, shared),
  }
}

/** Whether an identity has a customary name in it: then its values are not judged. */
function isNamed(text: string): boolean {
  return text.split('|').some((part) => CUSTOMARY.includes(lastStep(part)))
}

function holdsNumbers(found: Found): boolean {
  for (const value of found.values()) if (!/^[-0-9.]+$/.test(value)) return false
  return true
}

/** A customary name apart, what tells entries apart looks like a name: no measures, no descriptions. */
function holdNames(found: Found): boolean {
  let names = 0
  let count = 0
  for (const value of found.values()) {
    count++
    if (LIKE_A_NAME.test(value) && !LIKE_MEASURES.test(value)) names++
  }
  return names >= count * 0.9
}

/** Up to four words, none of them endless. */
const LIKE_A_NAME = /^\S{1,120}( \S{1,60}){0,3}$/
/** Numbers and what parts them: a size, a place, a colour, an outline. */
const LIKE_MEASURES = /^[-+.0-9eE%,;()#\s]*$|^[a-z]+\([-.0-9, ]*\)$|^#[0-9a-fA-F]{3,8}$/

/** Looks up an identity on all siblings, document by document. */
class Finder {
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

/** Those of the first document's identities that occur in every other, too. */
function sharedRanks(perDocument: readonly Found[]): number[] {
  const [first, ...others] = perDocument
  const shared: number[] = []
  for (let rank = 0; first !== undefined && rank < first.size; rank++)
    if (isShared(first, others, rank)) shared.push(rank)
  return shared
}

function isShared(first: Found, others: readonly Found[], rank: number): boolean {
  for (const found of others)
    if (!found.isLinked(rank) && !found.has(first.valueAt(rank))) return false
  return true
}

function alikeness(a: Doc, nodeA: number, b: Doc, nodeB: number): number {
  if (nodeB === LEFT_OUT || sameSlice(a.tree, nodeA, b.tree, nodeB)) return 1
  return similarity(featuresOf(a, nodeA), featuresOf(b, nodeB))
}

/** The mean likeness of entries of one identity in the first document and in each other, over a sample. */
function agreementOf(perDocument: readonly Found[], shared: readonly number[]): number {
  const [first, ...others] = perDocument
  if (first === undefined || others.length === 0 || shared.length === 0) return 1
  const step = Math.max(1, Math.floor(shared.length / SAMPLE))
  let sum = 0
  let count = 0
  for (let at = 0; at < shared.length; at += step) {
    const value = first.valueAt(shared[at] ?? 0)
    const entry = first.get(value) ?? 0
    for (const found of others) {
      sum += alikeness(first.doc, entry, found.doc, found.get(value) ?? 0)
      count++
    }
  }
  return sum / count
}
