import { Kind } from '../document/kind.ts'
import { nodeOf } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import type { NumberedFeatures } from './feature-cache.ts'
import { FeatureCache, numberedSimilarity } from './feature-cache.ts'
import { align } from './likeness.ts'
import { sameSlice } from '../document/same-text.ts'
import type { Matching } from './matching.ts'
import type { Side } from '../document/sides.ts'
import { OLD, SIDES } from '../document/sides.ts'

/** Comments and texts at one place are one from this share of words on. */
const LEAST_WORDS = 0.3
/** An entry whose identity was changed is found again from this share on, and only ... */
const LEAST_RENAMED = 0.6
/** ... where no other candidate comes nearer than this. */
const RENAME_MARGIN = 0.15
/** More lost and gained entries than this are not compared for renames. */
const MOST_RENAMED = 200

/**
 * Finds among what has no partner yet the comments that were rewritten and the entries that were
 * renamed. Comments and texts that both sides added are one only where they are equal: neither is a new version of the other.
 */
export class Pairing {
  private readonly features: FeatureCache
  private readonly ofClasses = new Map<number, readonly NumberedFeatures[]>()

  constructor(private readonly matching: Matching) {
    this.features = new FeatureCache(matching)
  }

  pair(a: Side, b: Side): void {
    this.ofClasses.clear()
    const lost = this.unmatched(a, b)
    const gained = this.unmatched(b, a)
    for (const [group, lostUnits] of lost) {
      const gainedUnits = gained.get(group)
      if (gainedUnits === undefined) continue
      const means = this.matching.keying.means.get(group)
      if (this.isWords(a, lostUnits[0] ?? -1)) {
        this.pairEqual(a, b, lostUnits, gainedUnits)
        if (a === OLD) this.pairInGaps(a, b, lostUnits, gainedUnits)
      } else if (means?.by === 'identity' && a === OLD)
        this.pairRenamed(a, b, lostUnits, gainedUnits)
    }
  }

  private join(into: number, from: number): boolean {
    this.ofClasses.clear()
    return this.matching.join(into, from)
  }

  /** Units of `a` without partner in `b`, by group. */
  private unmatched(a: Side, b: Side): Map<string, number[]> {
    const found = new Map<string, number[]>()
    const { matching } = this
    const classes = matching.classOf[a]
    for (let unit = 0; unit < classes.length; unit++) {
      if (matching.unit(b, classes[unit] ?? -1) >= 0) continue
      const group = matching.keying.groups[a][unit] ?? ''
      const units = found.get(group)
      if (units === undefined) found.set(group, [unit])
      else units.push(unit)
    }
    return found
  }

  /** Pairs what is equal, wherever it stands, in its order. */
  private pairEqual(a: Side, b: Side, lost: readonly number[], gained: readonly number[]): void {
    const { matching } = this
    const waiting = new Map<string, number[]>()
    const words = (side: Side, unit: number): string =>
      canonical(matching.docs[side], nodeOf(matching.lists[side], unit))
    for (const unit of gained) {
      const text = words(b, unit)
      const same = waiting.get(text)
      if (same === undefined) waiting.set(text, [unit])
      else same.push(unit)
    }
    for (const unit of lost) {
      const partner = waiting.get(words(a, unit))?.shift()
      if (partner !== undefined) {
        this.join(matching.classOf[a][unit] ?? -1, matching.classOf[b][partner] ?? -1)
      }
    }
  }

  /** Pairs units that stand between the same matched neighbours. */
  private pairInGaps(
    a: Side,
    b: Side,
    allLost: readonly number[],
    allGained: readonly number[],
  ): void {
    const { matching } = this
    const lost = allLost.filter((unit) => matching.unit(b, matching.classOf[a][unit] ?? -1) < 0)
    const gained = allGained.filter((unit) => matching.unit(a, matching.classOf[b][unit] ?? -1) < 0)
    const inGap = this.byGap(b, a, gained)
    for (const [gap, lostUnits] of this.byGap(a, b, lost)) {
      const gainedUnits = inGap.get(gap)
      if (gainedUnits !== undefined) this.pairSequences(a, b, lostUnits, gainedUnits)
    }
  }

  /** Units of `a` by the class of the nearest unit before them that `b` has too. */
  private byGap(a: Side, b: Side, units: readonly number[]): Map<number, number[]> {
    const { matching } = this
    const wanted = new Set(units)
    const gaps = new Map<number, number[]>()
    let anchor = -1
    const classes = matching.classOf[a]
    for (let unit = 0; unit < classes.length; unit++) {
      const cls = classes[unit] ?? -1
      if (matching.unit(b, cls) >= 0) anchor = cls
      else if (wanted.has(unit)) {
        const inGap = gaps.get(anchor)
        if (inGap === undefined) gaps.set(anchor, [unit])
        else inGap.push(unit)
      }
    }
    return gaps
  }

  private pairSequences(
    a: Side,
    b: Side,
    lost: readonly number[],
    gained: readonly number[],
  ): void {
    const { matching } = this
    const pairs =
      lost.length === gained.length
        ? lost.map((_, i): [number, number] => [i, i])
        : align(
            [lost.length, gained.length],
            (i, j) => this.alike(a, lost[i] ?? -1, b, gained[j] ?? -1),
            LEAST_WORDS,
          )
    for (const [i, j] of pairs) {
      this.join(
        matching.classOf[a][lost[i] ?? -1] ?? -1,
        matching.classOf[b][gained[j] ?? -1] ?? -1,
      )
    }
  }

  private isWords(side: Side, unit: number): boolean {
    const kind = this.matching.docs[side].kind(nodeOf(this.matching.lists[side], unit))
    return kind === Kind.Comment || kind === Kind.Text
  }

  /** The best likeness between the members of two units' classes in any two documents. */
  private alike(a: Side, lost: number, b: Side, gained: number): number {
    return bestSimilarity(this.featuresOf(a, lost), this.featuresOf(b, gained))
  }

  /** What a unit's class holds in each document that has it otherwise than old. */
  private featuresOf(of: Side, unit: number): readonly NumberedFeatures[] {
    const { matching, features } = this
    const cls = matching.classOf[of][unit] ?? -1
    const known = this.ofClasses.get(cls)
    if (known !== undefined) return known
    const sides = SIDES.filter(
      (side) => matching.unit(side, cls) >= 0 && (side === OLD || !this.isAsInOld(side, cls)),
    )
    const found = sides.map((side) => features.of(side, matching.unit(side, cls)))
    this.ofClasses.set(cls, found)
    return found
  }

  private isAsInOld(side: Side, cls: number): boolean {
    const { docs } = this.matching
    const [old, node] = [this.matching.node(OLD, cls), this.matching.node(side, cls)]
    return old >= 0 && sameSlice(docs[OLD].tree, old, docs[side].tree, node)
  }

  /**
   * An identity that one side changed: the entry that stands alone in the same gap and is alike enough,
   * or that is far more alike than any other.
   */
  private pairRenamed(a: Side, b: Side, lost: readonly number[], gained: readonly number[]): void {
    if (lost.length > MOST_RENAMED || gained.length > MOST_RENAMED) return
    const { matching } = this
    const join = (from: number, to: number): void => {
      const into = matching.classOf[a][from] ?? -1
      if (this.join(into, matching.classOf[b][to] ?? -1)) matching.renamed.add(into)
    }
    const inGap = this.byGap(b, a, gained)
    for (const [gap, [from = -1, ...others]] of this.byGap(a, b, lost)) {
      const [to, ...rivals] = inGap.get(gap) ?? []
      if (to === undefined || others.length + rivals.length > 0) continue
      if (this.alike(a, from, b, to) >= LEAST_RENAMED) join(from, to)
    }
    const unmatched = lost.filter((unit) => matching.unit(b, matching.classOf[a][unit] ?? -1) < 0)
    const free = gained.filter((unit) => matching.unit(a, matching.classOf[b][unit] ?? -1) < 0)
    const known = free.map((to) => this.featuresOf(b, to))
    const scores = unmatched.map((from) => {
      const features = this.featuresOf(a, from)
      return known.map((others) => bestSimilarity(features, others))
    })
    for (const [i, from] of unmatched.entries()) {
      const row = scores[i] ?? []
      const j = row.indexOf(Math.max(...row))
      const best = row[j] ?? 0
      const column = scores.map((each) => each[j] ?? 0)
      const rivals = [...row.filter((_, at) => at !== j), ...column.filter((_, at) => at !== i)]
      if (best < LEAST_RENAMED || Math.max(0, ...rivals) > best - RENAME_MARGIN) continue
      join(from, free[j] ?? -1)
    }
  }
}

/** The best likeness between any of the one and any of the other. */
function bestSimilarity(
  ones: readonly NumberedFeatures[],
  others: readonly NumberedFeatures[],
): number {
  let best = 0
  for (const one of ones)
    for (const other of others) best = Math.max(best, numberedSimilarity(one, other))
  return best
}
