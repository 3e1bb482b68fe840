import { timesOf } from '../document/gather.ts'
import { sameSlice } from '../document/same-text.ts'
import type { Compared } from '../likeness/features.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import { sampled } from '../likeness/sampled.ts'
import {
  areNames,
  candidates,
  customaryCandidates,
  customaryRank,
  isCustomary,
  isId,
  pairsOf,
} from './candidates.ts'
import type { IdentityExpression } from './expression.ts'
import { parseIdentity } from './expression.ts'
import type { Found, Held } from './finder.ts'
import { findBy, findPartly } from './finder.ts'
import type { Known } from './known.ts'
import type { SiblingGroups } from './siblings.ts'
import { Siblings } from './siblings.ts'

/** So many entries are compared to see whether an identity finds the same ones again. */
const SAMPLE = 40
/** So many siblings tell how rare a value is. */
const SIBLINGS = 64
/** By so much another partner must be more alike to speak against an identity. */
const CLEARLY = 0.15
/** Up to this likeness two entries that have a value in common may have it by chance. */
const BY_CHANCE = 0.3
/** From so many entries of the first document on a name that is not customary may be the identity. */
const LEAST_ENTRIES = 3

/** An identity, and the entries of each document that has any by it. */
export interface Inferred {
  identity: IdentityExpression
  perDocument: readonly Found[]
  /** Whether it has a customary name, so that its author meant it to name entries. */
  isStrong: boolean
}

/**
 * The identity that tells the entries of one place apart in all documents. A candidate is on half of the
 * siblings and unique among them in each document that has any, slips aside; then candidates fall that
 * pair the first document's entries otherwise than likeness does, or that find far fewer again than another.
 * Where none stands, an id still tells those that have one of their own.
 *
 * @param docs old first, where there is an old
 */
export function inferIdentity(
  docs: Siblings['docs'],
  groups: readonly SiblingGroups[],
  known: Known,
): Inferred | undefined {
  const siblings = new Siblings(docs, groups)
  if (siblings.most === 0) return undefined
  const judge = new Judge(siblings, known)
  // most authors call it by a customary name, and then nothing else has to be looked at
  const names = customaryCandidates(siblings).sort((a, b) => customaryRank(a) - customaryRank(b))
  const customary: Candidate[] = []
  for (const name of names) {
    const [held] = judge.holding([name])
    if (held === undefined) continue
    customary.push(held)
    // a name that comes before it may only have fallen
    if (customary.length === 1 && judge.isBeyondDoubt(held)) return inferred(held)
  }
  // what both filled is one only where it is equal: no chance is to pair it
  const isTold = (siblings.count(0) || siblings.most) >= LEAST_ENTRIES && !judge.isWithoutOld()
  const singles = isTold ? candidates(siblings) : []
  const held = [...customary, ...judge.holding(singles.filter((text) => !isCustomary(text)))]
  const best = judge.best(held)
  if (best !== undefined || held.length > 0) return inferred(best)
  const pair =
    singles.length === 0 ? undefined : judge.best(judge.holding(pairsOf(singles, siblings)))
  return inferred(pair ?? partialId(names, siblings))
}

/**
 * An id that most siblings lack or share: it names those that have it alone, unless it is a number. Where half of a
 * document's entries have one and none of another's, a side may have given ids to entries that had none.
 */
function partialId(names: readonly string[], siblings: Siblings): Candidate | undefined {
  const first = names.find(isId)
  if (first === undefined) return undefined
  const identity = parseIdentity(first)
  const held = findPartly(identity, siblings)
  const shares = held
    .map(({ values }, d) => ({ named: values.length, all: siblings.count(d) }))
    .filter(({ all }) => all > 0)
  const isGiven =
    shares.some(({ named }) => named === 0) && shares.some(({ named, all }) => named * 2 >= all)
  const areTold = !isGiven && held.every(({ values }) => areNames(values))
  return areTold ? { identity, held } : undefined
}

function inferred(candidate: Candidate | undefined): Inferred | undefined {
  if (candidate === undefined) return undefined
  const { identity, held } = candidate
  return { identity, perDocument: held, isStrong: isCustomary(identity.text) }
}

interface Candidate {
  identity: IdentityExpression
  held: readonly Held[]
}

function byRank(a: Candidate, b: Candidate): number {
  return customaryRank(a.identity.text) - customaryRank(b.identity.text)
}

/** An entry of the first document and the one that a candidate takes for the same in another. */
type Partners = readonly [a: number, b: number]

/** Judges candidates by the entries of the first document and their partners in each of the others. */
class Judge {
  private readonly rarities = new Map<number, Rarity>()
  private readonly partners = new Map<Candidate, Map<number, readonly Partners[]>>()
  private readonly byEntry = new Map<readonly Partners[], ReadonlyMap<number, number>>()

  constructor(
    private readonly siblings: Siblings,
    private readonly known: Known,
  ) {}

  /** Those that tell siblings apart in every document. */
  holding(texts: readonly string[]): Candidate[] {
    return texts.flatMap((text) => {
      const identity = parseIdentity(text)
      const held = findBy(identity, this.siblings)
      if (held === undefined) return []
      return isCustomary(text) || held.every(({ values }) => areNames(values))
        ? [{ identity, held }]
        : []
    })
  }

  /**
   * Of those that nothing speaks against: the customary ones in their order; of others the one of whose pairs the
   * fewest are contradicted, since each of these may put an edit on another entry; then what finds most again,
   * and as it was: one that is equal by chance pairs entries that have nothing else in common.
   */
  best(all: readonly Candidate[]): Candidate | undefined {
    const standing = all.filter((candidate) => !this.falls(candidate, all))
    const customary = standing.filter(({ identity }) => isCustomary(identity.text)).sort(byRank)
    if (customary[0] !== undefined || standing.length < 2) return customary[0] ?? standing[0]
    const ranked = standing.map((candidate) => ({
      candidate,
      contradicted: this.contradictedIn(candidate, all),
      agreement: this.agreement(candidate),
    }))
    ranked.sort((a, b) => a.contradicted - b.contradicted || b.agreement - a.agreement)
    return ranked[0]?.candidate
  }

  private contradictedIn(candidate: Candidate, all: readonly Candidate[]): number {
    const rivals = all.filter((each) => each !== candidate)
    return this.others().reduce((sum, d) => sum + this.contradicted(candidate, rivals, d).length, 0)
  }

  /** Whether a candidate finds half of the entries again, and most of them so alike that no other could do better. */
  isBeyondDoubt(candidate: Candidate): boolean {
    return this.others().every((d) => {
      const partners = this.partnersOf(candidate, d)
      if (partners.length * 2 < Math.min(this.siblings.count(0), this.siblings.count(d)))
        return false
      const sample = sampled(partners, SAMPLE)
      const isMost = (some: readonly Partners[]): boolean => some.length * 2 >= sample.length
      return (
        isMost(sample.filter((each) => this.areSame(d, each))) ||
        isMost(sample.filter((each) => this.alike(d, each) > 1 - CLEARLY))
      )
    })
  }

  /** How many entries a candidate finds again, each as much as it is alike; one found by chance counts against it. */
  private agreement(candidate: Candidate): number {
    return this.others().reduce((sum, d) => {
      const partners = this.partnersOf(candidate, d)
      const looked = sampled(partners, SAMPLE)
      const alike = looked.reduce((all, pair) => all + this.alike(d, pair) - BY_CHANCE, 0)
      return looked.length === 0 ? sum : sum + (alike * partners.length) / looked.length
    }, 0)
  }

  /** Whether old has no entry, so that nothing shows what names one, and several others have some. */
  isWithoutOld(): boolean {
    const { siblings } = this
    const filled = siblings.docs.filter((_, d) => d > 0 && siblings.count(d) > 0)
    return siblings.count(0) === 0 && new Set(filled).size > 1
  }

  /** The documents beside the first that have entries, if the first has any. */
  private others(): number[] {
    const { siblings } = this
    if (siblings.count(0) === 0) return []
    return siblings.docs
      .map((_, d) => d)
      .filter((d) => d > 0 && siblings.count(d) > 0 && siblings.docs[d] !== siblings.docs[0])
  }

  private falls(candidate: Candidate, all: readonly Candidate[]): boolean {
    return this.others().some((d) => {
      const partners = this.partnersOf(candidate, d)
      const fewest = Math.min(this.siblings.count(0), this.siblings.count(d))
      const isWeak = !isCustomary(candidate.identity.text)
      if (isWeak && partners.length * 2 < fewest) return true
      const rivals = all.filter((each) => each !== candidate)
      const most = Math.max(0, ...rivals.map((each) => this.partnersOf(each, d).length))
      if (fewest > 1 && partners.length * 2 < most) return true
      return this.isRefuted(candidate, rivals, d)
    })
  }

  /** Whether most of its pairs are contradicted. */
  private isRefuted(candidate: Candidate, rivals: readonly Candidate[], d: number): boolean {
    const looked = Math.min(this.partnersOf(candidate, d).length, SAMPLE)
    const worse = this.contradicted(candidate, rivals, d).length
    return worse >= (onlyCounts(candidate) ? 1 : 2) && worse * 2 > looked
  }

  /** Of its pairs, as many as are looked at, those in which another candidate's partner is clearly more alike. */
  private contradicted(
    candidate: Candidate,
    rivals: readonly Candidate[],
    d: number,
  ): readonly Partners[] {
    const others = rivals.map((each) => this.partnersByEntry(each, d))
    return sampled(this.partnersOf(candidate, d), SAMPLE).filter(([a, b]) => {
      const elsewhere = others.map((each) => each.get(a)).filter((c) => c !== undefined && c !== b)
      if (elsewhere.length === 0) return false
      const here = this.alike(d, [a, b])
      return elsewhere.some((c) => this.alike(d, [a, c ?? -1]) >= here + CLEARLY)
    })
  }

  /** The entries that a candidate takes for one, worked out once. */
  private partnersOf(candidate: Candidate, d: number): readonly Partners[] {
    let known = this.partners.get(candidate)
    if (known === undefined) this.partners.set(candidate, (known = new Map()))
    let partners = known.get(d)
    if (partners === undefined) known.set(d, (partners = partnersOf(candidate, d)))
    return partners
  }

  /** The same by the first document's entry. */
  private partnersByEntry(candidate: Candidate, d: number): ReadonlyMap<number, number> {
    const partners = this.partnersOf(candidate, d)
    let known = this.byEntry.get(partners)
    if (known === undefined) this.byEntry.set(partners, (known = new Map(partners)))
    return known
  }

  private areSame(d: number, [a, b]: Partners): boolean {
    const [first, doc] = [this.siblings.docs[0], this.siblings.docs[d]]
    return first !== undefined && doc !== undefined && sameSlice(first.tree, a, doc.tree, b)
  }

  /** How alike an entry of the first document and one of another are. */
  private alike(d: number, partners: Partners): number {
    if (this.areSame(d, partners)) return 1
    const [a, b] = partners
    const [one, other] = [this.compared(0, a), this.compared(d, b)]
    return one.features === other.features ? 1 : likeness(one, other).score
  }

  private compared(d: number, node: number): Compared {
    const { docs, groups } = this.siblings
    const doc = docs[d]
    const features = (entry: number): Compared['features'] =>
      doc === undefined
        ? { paths: [], values: [] }
        : this.known.features.of(this.known.values.of(doc, entry))
    let rarity = this.rarities.get(d)
    if (rarity === undefined) {
      rarity = new Rarity(sampled((groups[d] ?? []).flat(), SIBLINGS).map(features))
      this.rarities.set(d, rarity)
    }
    return { features: features(node), rarity }
  }
}

/**
 * The entries that a candidate takes for one: in containers of one rank where both documents have as many,
 * else those of an identity that each document has once.
 */
function partnersOf({ held }: Candidate, d: number): Partners[] {
  const [first, other] = [held[0], held[d]]
  if (first === undefined || other === undefined) return []
  const found: Partners[] = []
  if (first.inContainers.length === other.inContainers.length) {
    for (const [k, entries] of first.inContainers.entries())
      for (const [value, node] of entries) {
        const partner = other.inContainers[k]?.get(value)
        if (partner !== undefined) found.push([node, partner])
      }
    return found
  }
  const [inFirst, inOther] = [once(first), once(other)]
  for (const [value, node] of inFirst) {
    const partner = inOther.get(value)
    if (partner !== undefined) found.push([node, partner])
  }
  return found
}

/** Identities that one entry of a document has, in whichever container. */
function once({ values, nodes }: Held): Map<string, number> {
  const times = timesOf(values)
  return new Map([...nodes].filter(([value]) => times.get(value) === 1))
}

/** Whether an identity is nothing but the number of an entry in its container, in every document. */
function onlyCounts({ held }: Candidate): boolean {
  return held.every(({ inContainers }) =>
    inContainers.every((entries) => {
      const [first, ...others] = entries.keys()
      if (first === undefined) return true
      return /^[0-9]+$/.test(first) && others.every((each, i) => each === String(+first + i + 1))
    }),
  )
}
