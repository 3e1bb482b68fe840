import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import type { Means, Scope } from './keying.ts'
import { Keying } from './keying.ts'
import type { Features } from './likeness.ts'
import { align, featuresOf, similarity } from './likeness.ts'
import type { Side, Triple } from './sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from './sides.ts'

/** Entries without identity are one from this share of values on. */
const LEAST_LIKENESS = 0.5
/** Comments and texts at one place are one from this share of words on. */
const LEAST_WORDS = 0.3
/** An entry whose identity was changed is found again from this share on, and only ... */
const LEAST_RENAMED = 0.6
/** ... where no other candidate comes nearer than this. */
const RENAME_MARGIN = 0.15
/** More lost and gained entries than this are not compared for renames. */
const MOST_RENAMED = 200

/**
 * Which unit of one document is which unit of the others: each class is one entry, with its unit in
 * old, new and mine, or -1 where it is not there.
 */
export class Matching {
  readonly slots: Triple<number[]> = [[], [], []]
  readonly classOf: Triple<number[]>
  /** Classes of entries whose identity differs between the documents. */
  readonly renamed = new Set<number>()
  /** Which occurrence of its identity a class is, where it is not the first. */
  readonly occurrence = new Map<number, number>()

  constructor(
    readonly docs: Triple<Doc>,
    readonly lists: Triple<UnitList | undefined>,
    readonly keying: Keying,
  ) {
    this.classOf = triple((side) => new Array<number>(lists[side]?.length ?? 0).fill(-1))
  }

  get length(): number {
    return this.slots[OLD].length
  }

  /** The unit of a class in a document, or -1. */
  unit(side: Side, cls: number): number {
    return this.slots[side][cls] ?? -1
  }

  /** The node of a class in a document, or -1. */
  node(side: Side, cls: number): number {
    const unit = this.unit(side, cls)
    return unit < 0 ? -1 : (this.lists[side]?.node[unit] ?? -1)
  }

  /** Whether a class is empty because its units were joined to another. */
  isVoid(cls: number): boolean {
    return SIDES.every((side) => this.unit(side, cls) < 0)
  }

  means(side: Side, unit: number): Means | undefined {
    return this.keying.means.get(this.keying.groups[side][unit] ?? '')
  }

  add(side: Side, unit: number): number {
    const cls = this.length
    for (const each of SIDES) this.slots[each].push(each === side ? unit : -1)
    this.classOf[side][unit] = cls
    return cls
  }

  put(cls: number, side: Side, unit: number): void {
    this.slots[side][cls] = unit
    this.classOf[side][unit] = cls
  }

  /** Makes two classes one, where no document has a unit in both; gives whether it did. */
  join(into: number, from: number): boolean {
    if (
      into === from ||
      SIDES.some((side) => this.unit(side, into) >= 0 && this.unit(side, from) >= 0)
    )
      return false
    for (const side of SIDES) {
      const unit = this.unit(side, from)
      if (unit < 0) continue
      this.put(into, side, unit)
      this.slots[side][from] = -1
    }
    return true
  }
}

/** Matches the units of one container in the three documents; where a document lacks it, its list is undefined. */
export function matchUnits(
  docs: Triple<Doc>,
  lists: Triple<UnitList | undefined>,
  scope: Scope,
): Matching {
  const matching = new Matching(docs, lists, new Keying(docs, lists, scope))
  matchByKey(matching)
  if (!isComplete(matching)) {
    const pairing = new Pairing(matching)
    pairing.pair(OLD, NEW)
    pairing.pair(OLD, MINE)
    pairing.pair(NEW, MINE)
  }
  return matching
}

/** The units of one key are matched in order: the first with the first, the second with the second. */
function matchByKey(matching: Matching): void {
  const classes = new Map<string, number[]>()
  for (const side of SIDES) {
    const used = new Map<string, number>()
    for (const [unit, key] of matching.keying.keys(side).entries()) {
      const known = classes.get(key)
      if (known === undefined) {
        classes.set(key, [matching.add(side, unit)])
        used.set(key, 1)
        continue
      }
      const occurrence = used.get(key) ?? 0
      used.set(key, occurrence + 1)
      const cls = known[occurrence]
      if (cls !== undefined) matching.put(cls, side, unit)
      else {
        const added = matching.add(side, unit)
        known.push(added)
        matching.occurrence.set(added, known.length)
      }
    }
  }
}

function isComplete(matching: Matching): boolean {
  const counts = SIDES.map((side) => matching.lists[side]?.length ?? 0)
  return counts.every((count) => count === 0 || count === matching.length)
}

/**
 * Finds among what has no partner yet the units that are one by their likeness. Comments and texts
 * that both sides added are one only where they are equal: neither is a new version of the other.
 */
class Pairing {
  private readonly features = new Map<number, Features>()

  constructor(private readonly matching: Matching) {}

  pair(a: Side, b: Side): void {
    const lost = this.unmatched(a, b)
    const gained = this.unmatched(b, a)
    for (const [group, lostUnits] of lost) {
      const gainedUnits = gained.get(group)
      if (gainedUnits === undefined) continue
      const means = this.matching.keying.means.get(group)
      if (means?.by === 'likeness') {
        const words = this.isWords(a, lostUnits[0] ?? 0)
        if (words) this.pairEqual(a, b, lostUnits, gainedUnits)
        if (!words || a === OLD) this.pairInGaps(a, b, lostUnits, gainedUnits)
      } else if (means?.by === 'identity' && a === OLD)
        this.pairRenamed(a, b, lostUnits, gainedUnits)
    }
  }

  /** Units of `a` without partner in `b`, by group. */
  private unmatched(a: Side, b: Side): Map<string, number[]> {
    const found = new Map<string, number[]>()
    const { matching } = this
    for (const [unit, cls] of matching.classOf[a].entries()) {
      if (matching.unit(b, cls) >= 0) continue
      const group = matching.keying.groups[a][unit] ?? ''
      const units = found.get(group)
      if (units === undefined) found.set(group, [unit])
      else units.push(unit)
    }
    return found
  }

  /** Pairs comments of the same words, wherever they stand, in their order. */
  private pairEqual(a: Side, b: Side, lost: readonly number[], gained: readonly number[]): void {
    const { matching } = this
    const waiting = new Map<string, number[]>()
    const words = (side: Side, unit: number): string =>
      canonical(matching.docs[side], matching.lists[side]?.node[unit] ?? 0)
    for (const unit of gained) {
      const text = words(b, unit)
      const same = waiting.get(text)
      if (same === undefined) waiting.set(text, [unit])
      else same.push(unit)
    }
    for (const unit of lost) {
      const partner = waiting.get(words(a, unit))?.shift()
      if (partner !== undefined) {
        matching.join(matching.classOf[a][unit] ?? -1, matching.classOf[b][partner] ?? -1)
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
    for (const [unit, cls] of matching.classOf[a].entries()) {
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
    const words = this.isWords(a, lost[0] ?? 0)
    const positional = words && lost.length === gained.length
    const pairs = positional
      ? lost.map((_, i): [number, number] => [i, i])
      : align(
          [lost.length, gained.length],
          (i, j) => this.alike(a, lost[i] ?? 0, b, gained[j] ?? 0),
          words ? LEAST_WORDS : LEAST_LIKENESS,
        )
    for (const [i, j] of pairs) {
      matching.join(
        matching.classOf[a][lost[i] ?? 0] ?? -1,
        matching.classOf[b][gained[j] ?? 0] ?? -1,
      )
    }
  }

  private isWords(side: Side, unit: number): boolean {
    const kind = this.matching.docs[side].kind(this.matching.lists[side]?.node[unit] ?? 0)
    return kind === Kind.Comment || kind === Kind.Text
  }

  /** The best likeness between the members of two units' classes in any two documents. */
  private alike(a: Side, lost: number, b: Side, gained: number): number {
    const { matching } = this
    const from = matching.classOf[a][lost] ?? -1
    const to = matching.classOf[b][gained] ?? -1
    let best = 0
    for (const one of SIDES) {
      for (const other of SIDES) {
        if (matching.unit(one, from) < 0 || matching.unit(other, to) < 0) continue
        best = Math.max(best, similarity(this.featuresOf(one, from), this.featuresOf(other, to)))
      }
    }
    return best
  }

  private featuresOf(side: Side, cls: number): Features {
    const id = cls * 3 + side
    let features = this.features.get(id)
    if (features === undefined) {
      features = featuresOf(this.matching.docs[side], this.matching.node(side, cls))
      this.features.set(id, features)
    }
    return features
  }

  /** An identity that one side changed: the entry that is far more alike than any other. */
  private pairRenamed(a: Side, b: Side, lost: readonly number[], gained: readonly number[]): void {
    if (lost.length > MOST_RENAMED || gained.length > MOST_RENAMED) return
    const { matching } = this
    const scores = lost.map((from) => gained.map((to) => this.alike(a, from, b, to)))
    for (const [i, from] of lost.entries()) {
      const row = scores[i] ?? []
      const j = row.indexOf(Math.max(...row))
      const best = row[j] ?? 0
      const column = scores.map((each) => each[j] ?? 0)
      const rivals = [...row.filter((_, at) => at !== j), ...column.filter((_, at) => at !== i)]
      if (best < LEAST_RENAMED || Math.max(0, ...rivals) > best - RENAME_MARGIN) continue
      const into = matching.classOf[a][from] ?? -1
      if (matching.join(into, matching.classOf[b][gained[j] ?? 0] ?? -1)) matching.renamed.add(into)
    }
  }
}
