import { sameSlice } from '../document/same-text.ts'
import type { Doc } from '../formats/doc.ts'
import {
  candidates,
  customaryCandidates,
  customaryRank,
  isCustomary,
  isNamed,
  pairsOf,
} from './candidates.ts'
import type { IdentityExpression } from './expression.ts'
import { parseIdentity } from './expression.ts'
import type { Found } from './finder.ts'
import { findBy } from './finder.ts'
import { featuresOf, similarity } from './likeness.ts'
import type { SiblingGroups } from './siblings.ts'
import { Siblings } from './siblings.ts'

/** So many entries are compared to see whether an identity finds the same ones again. */
const SAMPLE = 40

/** An identity, and the entries of each document that has any by it. */
export interface Inferred {
  identity: IdentityExpression
  perDocument: readonly Found[]
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
  const siblings = new Siblings(docs, groups)
  // most authors call it by a customary name, and then nothing else has to be looked at
  const judge = judging(siblings)
  const likely = bestOf(customaryCandidates(siblings), judge)
  if (likely?.isSure === true) return likely
  const singles = candidates(siblings)
  return bestOf(singles, judge) ?? bestOf(pairsOf(singles, siblings), judge)
}

/** What speaks for each candidate, worked out once; undefined for one that does not tell entries apart. */
type Judge = (text: string, order: number) => Judged | undefined

function judging(siblings: Siblings): Judge {
  const known = new Map<string, Judged | undefined>()
  return (text, order) => {
    if (!known.has(text)) known.set(text, judge(parseIdentity(text), order, siblings))
    return known.get(text)
  }
}

/** The best of the candidates; those that cannot be better than what was found are not judged. */
function bestOf(texts: readonly string[], judge: Judge): Judged | undefined {
  let best: Judged | undefined
  const ranked = texts
    .map((text, order) => ({ text, order, customary: isCustomary(text) }))
    .sort((a, b) => Number(b.customary) - Number(a.customary))
  for (const { text, order, customary } of ranked) {
    if (best !== undefined && !customary && best.isSure) break
    const judged = judge(text, order)
    if (judged !== undefined && (best === undefined || isBetter(judged, best))) best = judged
  }
  return best
}

function isBetter(a: Judged, b: Judged): boolean {
  if (a.weight !== b.weight) return a.weight > b.weight
  const rank = (judged: Judged): number => customaryRank(judged.identity.text)
  return rank(a) !== rank(b) ? rank(a) < rank(b) : a.order < b.order
}

/** An identity, and what speaks for it. */
class Judged implements Inferred {
  private known: number | undefined

  /**
   * @param most as many identities as all documents can share at most
   * @param perDocument what it finds in each document that has such entries
   * @param shared those of the first that occur in every document
   */
  constructor(
    readonly identity: IdentityExpression,
    readonly order: number,
    private readonly most: number,
    readonly perDocument: readonly Found[],
    private readonly shared: readonly string[],
  ) {}

  /**
   * How many entries it finds again, twice for a customary name (an author calls `name` what names), half
   * for what is nothing but numbers (a depth that happens to differ).
   */
  get weight(): number {
    return (this.known ??= this.weightFor(alikeness))
  }

  /** Whether no other can weigh more, customary ones apart; mostly told without comparing what differs. */
  get isSure(): boolean {
    const atLeast = this.known ?? this.weightFor(sameness)
    return atLeast >= this.most || this.weight >= this.most
  }

  private weightFor(likeness: Likeness): number {
    const found = this.shared.length * agreementOf(this.perDocument, this.shared, likeness)
    if (isCustomary(this.identity.text)) return found * 2
    return this.perDocument.every(holdsNumbers) ? found / 2 : found
  }
}

function judge(
  identity: IdentityExpression,
  order: number,
  siblings: Siblings,
): Judged | undefined {
  const perDocument = findBy(identity, siblings)
  if (perDocument === undefined) return undefined
  if (!isNamed(identity.text) && !perDocument.every(holdNames)) return undefined
  return new Judged(identity, order, siblings.most, perDocument, sharedBy(perDocument))
}

function holdsNumbers(found: Found): boolean {
  for (const value of found.nodes.keys()) if (!/^[-0-9.]+$/.test(value)) return false
  return true
}

/** A customary name apart, what tells entries apart looks like a name: no measures, no descriptions. */
function holdNames(found: Found): boolean {
  let names = 0
  let count = 0
  for (const value of found.nodes.keys()) {
    count++
    if (LIKE_A_NAME.test(value) && !LIKE_MEASURES.test(value)) names++
  }
  return names >= count * 0.9
}

/** Up to four words, none of them endless. */
const LIKE_A_NAME = /^\S{1,120}( \S{1,60}){0,3}$/
/** Numbers and what parts them: a size, a place, a colour, an outline. */
const LIKE_MEASURES = /^[-+.0-9eE%,;()#\s]*$|^[a-z]+\([-.0-9, ]*\)$|^#[0-9a-fA-F]{3,8}$/

/** Those of the first document's identities that occur in every other, too. */
function sharedBy(perDocument: readonly Found[]): string[] {
  const [first, ...others] = perDocument
  const values = [...(first?.nodes.keys() ?? [])]
  return values.filter((value) => others.every(({ nodes }) => nodes.has(value)))
}

/** How alike two entries are, from 0 to 1. */
type Likeness = (a: Doc, nodeA: number, b: Doc, nodeB: number) => number

/** At least how alike two entries are. */
function sameness(a: Doc, nodeA: number, b: Doc, nodeB: number): number {
  return sameSlice(a.tree, nodeA, b.tree, nodeB) ? 1 : 0
}

function alikeness(a: Doc, nodeA: number, b: Doc, nodeB: number): number {
  if (sameness(a, nodeA, b, nodeB) === 1) return 1
  return similarity(featuresOf(a, nodeA), featuresOf(b, nodeB))
}

/** The mean likeness of entries of one identity in the first document and in each other, over a sample. */
function agreementOf(
  perDocument: readonly Found[],
  shared: readonly string[],
  likeness: Likeness,
): number {
  const [first, ...others] = perDocument
  if (first === undefined || others.length === 0 || shared.length === 0) return 1
  const step = Math.max(1, Math.floor(shared.length / SAMPLE))
  let sum = 0
  let count = 0
  for (let at = 0; at < shared.length; at += step) {
    const value = shared[at] ?? ''
    const entry = first.nodes.get(value) ?? -1
    for (const { doc, nodes } of others) {
      sum += likeness(first.doc, entry, doc, nodes.get(value) ?? -1)
      count++
    }
  }
  return sum / count
}
