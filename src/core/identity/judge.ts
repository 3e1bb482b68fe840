import { sampled } from '../likeness/sampled.ts'
import type { Candidate, Partners } from './partners.ts'
import { onlyCounts } from './numbers.ts'
import { areNames, customaryRank, isCustomary } from './candidates.ts'
import type { Comparison } from './comparison.ts'
import { parseIdentity } from './expression.ts'
import { findBy } from './finder.ts'
import { BY_CHANCE, CLEARLY, SAMPLE } from './measures.ts'
import type { Renumbered } from './renumbered.ts'
import { renumbered } from './renumbered.ts'

/** What comes of candidates. */
export interface Verdict {
  best?: Candidate | undefined
  /** A number that a side gave to other entries anew. */
  counter?: string | undefined
  /** Whether the best is a number that a side may have given anew. */
  isDoubtful?: boolean
}

/** Judges candidates by the entries of the first document and their partners in each of the others. */
export class Judge {
  private readonly surelyAnew = new Set<Candidate>()

  constructor(private readonly entries: Comparison) {}

  /** Those that tell siblings apart in every document. */
  holding(texts: readonly string[]): Candidate[] {
    return texts.flatMap((text) => {
      const identity = parseIdentity(text)
      const held = findBy(identity, this.entries.siblings)
      if (held === undefined) return []
      // a number further down may count anything
      const mayBeNumbers = isCustomary(text) && !text.includes('/')
      return mayBeNumbers || held.every(({ values }) => areNames(values))
        ? [{ identity, held }]
        : []
    })
  }

  /**
   * Of those that nothing speaks against: the customary ones in their order; of others the one of whose pairs the
   * fewest are contradicted, since each of these may put an edit on another entry; then what finds most again,
   * and as it was: one that is equal by chance pairs entries that have nothing else in common.
   */
  best(all: readonly Candidate[]): Verdict {
    const anew = new Map(all.map((each) => [each, this.anew(each, all)]))
    const kept = all.filter((each) => anew.get(each) !== 'surely')
    const counter = all.find((each) => anew.get(each) === 'surely')?.identity.text
    const best = this.bestOf(kept)
    return { best, counter, isDoubtful: best !== undefined && anew.get(best) === 'perhaps' }
  }

  private bestOf(all: readonly Candidate[]): Candidate | undefined {
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
    return this.entries
      .others()
      .reduce((sum, d) => sum + this.contradicted(candidate, rivals, d).length, 0)
  }

  /** Whether a candidate's numbers were given anew; what is sure stays so whatever else is compared. */
  private anew(candidate: Candidate, all: readonly Candidate[]): Renumbered {
    if (this.surelyAnew.has(candidate)) return 'surely'
    const found = renumbered(candidate, all, this.entries)
    if (found === 'surely') this.surelyAnew.add(candidate)
    return found
  }

  /** Whether nothing says that a candidate's numbers, if they are any, were given anew. */
  isAsNumbered(candidate: Candidate, all: readonly Candidate[]): boolean {
    return this.anew(candidate, all) === undefined
  }

  /** Whether a candidate finds half of the entries again, and most of them so alike that no other could do better. */
  isBeyondDoubt(candidate: Candidate): boolean {
    return this.entries.others().every((d) => {
      const partners = this.entries.partnersOf(candidate, d)
      if (
        partners.length * 2 <
        Math.min(this.entries.siblings.count(0), this.entries.siblings.count(d))
      )
        return false
      const sample = sampled(partners, SAMPLE)
      const isMost = (some: readonly Partners[]): boolean => some.length * 2 >= sample.length
      return (
        isMost(sample.filter((each) => this.entries.areSame(d, each))) ||
        isMost(sample.filter((each) => this.entries.alike(d, each) > 1 - CLEARLY))
      )
    })
  }

  /** How many entries a candidate finds again, each as much as it is alike; one found by chance counts against it. */
  private agreement(candidate: Candidate): number {
    return this.entries.others().reduce((sum, d) => {
      const partners = this.entries.partnersOf(candidate, d)
      const looked = sampled(partners, SAMPLE)
      const alike = looked.reduce((all, pair) => all + this.entries.alike(d, pair) - BY_CHANCE, 0)
      return looked.length === 0 ? sum : sum + (alike * partners.length) / looked.length
    }, 0)
  }

  /** Whether old has no entry, so that nothing shows what names one, and several others have some. */
  isWithoutOld(): boolean {
    const { siblings } = this.entries
    const filled = siblings.docs.filter((_, d) => d > 0 && siblings.count(d) > 0)
    return siblings.count(0) === 0 && new Set(filled).size > 1
  }

  private falls(candidate: Candidate, all: readonly Candidate[]): boolean {
    return this.entries.others().some((d) => {
      const partners = this.entries.partnersOf(candidate, d)
      const fewest = Math.min(this.entries.siblings.count(0), this.entries.siblings.count(d))
      const isWeak = !isCustomary(candidate.identity.text)
      if (isWeak && partners.length * 2 < fewest) return true
      const rivals = all.filter((each) => each !== candidate)
      const most = Math.max(0, ...rivals.map((each) => this.entries.partnersOf(each, d).length))
      if (fewest > 1 && partners.length * 2 < most) return true
      return this.isRefuted(candidate, rivals, d)
    })
  }

  /** Whether most of its pairs are contradicted. */
  private isRefuted(candidate: Candidate, rivals: readonly Candidate[], d: number): boolean {
    const looked = Math.min(this.entries.partnersOf(candidate, d).length, SAMPLE)
    const worse = this.contradicted(candidate, rivals, d).length
    return worse >= (onlyCounts(candidate) ? 1 : 2) && worse * 2 > looked
  }

  /** Of its pairs, as many as are looked at, those in which another candidate's partner is clearly more alike. */
  private contradicted(
    candidate: Candidate,
    rivals: readonly Candidate[],
    d: number,
  ): readonly Partners[] {
    const others = rivals.map((each) => this.entries.partnersByEntry(each, d))
    return sampled(this.entries.partnersOf(candidate, d), SAMPLE).filter(([a, b]) => {
      const elsewhere = others.map((each) => each.get(a)).filter((c) => c !== undefined && c !== b)
      if (elsewhere.length === 0) return false
      const here = this.entries.alike(d, [a, b])
      return elsewhere.some((c) => this.entries.alike(d, [a, c ?? -1]) >= here + CLEARLY)
    })
  }
}

function byRank(a: Candidate, b: Candidate): number {
  return customaryRank(a.identity.text) - customaryRank(b.identity.text)
}
