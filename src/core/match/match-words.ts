import { gather } from '../document/gather.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'
import { nodeOf } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import type { Counted } from '../likeness/counted.ts'
import { countedInAll, similarity } from '../likeness/counted.ts'
import { pairAlike } from '../likeness/pair-alike.ts'
import type { Matching } from './matching.ts'

/** Comments and texts at one place are one from this share of words on. */
const LEAST_WORDS = 0.3
/** Beyond this many comparisons what is left of a gap is not paired. */
const MOST_COMPARED = 40_000

/**
 * Matches comments and texts, once it is known which entry is which: those of the same words behind the same
 * entry, those of the same words elsewhere, and those that stand between the same neighbours and share words.
 * What both sides added is one only where it is equal: neither is a new version of the other.
 */
export function matchWords(matching: Matching): void {
  const words = new Words(matching)
  if (words.isEmpty) return
  words.linkBehindEntries()
  words.linkEqual(OLD, NEW)
  words.linkInGaps(NEW)
  words.linkEqual(OLD, MINE)
  words.linkInGaps(MINE)
  words.linkEqual(NEW, MINE)
}

class Words {
  private readonly units: readonly (readonly number[])[]

  constructor(private readonly matching: Matching) {
    this.units = SIDES.map((side) =>
      [...matching.classOf[side].keys()].filter((unit) => matching.isWords(side, unit)),
    )
    for (const side of SIDES) for (const unit of this.of(side)) matching.addWords(side, unit)
  }

  get isEmpty(): boolean {
    return this.units.every(({ length }) => length === 0)
  }

  private of(side: Side): readonly number[] {
    return this.units[side] ?? []
  }

  /** The same words behind the same entry, in their order: old with new, and mine with new before old. */
  linkBehindEntries(): void {
    const inPlace = SIDES.map((side) => this.byPlace(side))
    const link = (a: Side, b: Side): void => {
      for (const [key, units] of inPlace[a] ?? []) {
        const others = (inPlace[b]?.get(key) ?? []).filter((unit) => this.isFree(b, unit, a))
        const own = units.filter((unit) => this.isFree(a, unit, b))
        for (const [i, unit] of own.entries()) this.join(a, unit, b, others[i])
      }
    }
    link(OLD, NEW)
    link(NEW, MINE)
    link(OLD, MINE)
  }

  private byPlace(side: Side): Map<string, number[]> {
    const { matching } = this
    const found = new Map<string, number[]>()
    let previous = -1
    for (const [unit, cls] of matching.classOf[side].entries()) {
      if (!matching.isWords(side, unit)) {
        previous = cls
        continue
      }
      const key = `${previous} ${this.text(side, unit)}`
      gather(found, key, unit)
    }
    return found
  }

  private text(side: Side, unit: number): string {
    const { docs, lists } = this.matching
    const doc = docs[side]
    const node = nodeOf(lists[side], unit)
    const last = lists[side]?.last(unit) ?? node
    let text = `${doc.kind(node)}`
    for (let each = node; each <= last; each = doc.tree.next(each))
      text += ` ${canonical(doc, each)}`
    return text
  }

  private isFree(side: Side, unit: number, other: Side): boolean {
    const { matching } = this
    return matching.unit(other, matching.classOf[side][unit] ?? -1) < 0
  }

  private join(a: Side, unit: number, b: Side, other: number | undefined): void {
    const { classOf } = this.matching
    if (other !== undefined) this.matching.join(classOf[a][unit] ?? -1, classOf[b][other] ?? -1)
  }

  /**
   * Pairs what is equal, wherever it stands: comments that both documents have once, for rulers and what is said
   * of every entry tell no place; texts in their order.
   */
  linkEqual(a: Side, b: Side): void {
    const [ofA, ofB] = [this.byText(a), this.byText(b)]
    for (const [text, units] of ofA) {
      const others = ofB.get(text) ?? []
      const [first = -1] = units
      const isOne = units.length === 1 && others.length === 1
      if (!isOne && this.matching.isComment(a, first)) continue
      const free = others.filter((unit) => this.isFree(b, unit, a))
      for (const unit of units) if (this.isFree(a, unit, b)) this.join(a, unit, b, free.shift())
    }
  }

  private byText(side: Side): Map<string, number[]> {
    const found = new Map<string, number[]>()
    for (const unit of this.of(side)) gather(found, this.text(side, unit), unit)
    return found
  }

  /** Pairs units of old and of a side that stand between the same matched neighbours. */
  linkInGaps(side: Side): void {
    const inSide = this.byGap(side, OLD)
    for (const [gap, lost] of this.byGap(OLD, side)) {
      const gained = inSide.get(gap) ?? []
      for (const [i, j] of this.pairs(lost, side, gained))
        this.join(OLD, lost[i] ?? -1, side, gained[j])
    }
  }

  /** Units without partner in another document, by kind and by the class of the nearest unit before that it has, too. */
  private byGap(side: Side, other: Side): Map<string, number[]> {
    const { matching } = this
    const gaps = new Map<string, number[]>()
    let anchor = -1
    for (const [unit, cls] of matching.classOf[side].entries()) {
      if (matching.unit(other, cls) >= 0) anchor = cls
      else if (matching.isWords(side, unit)) {
        const gap = `${anchor} ${matching.isComment(side, unit)}`
        gather(gaps, gap, unit)
      }
    }
    return gaps
  }

  private pairs(
    lost: readonly number[],
    side: Side,
    gained: readonly number[],
  ): (readonly [number, number])[] {
    if (lost.length === gained.length) return lost.map((_, i) => [i, i])
    if (lost.length * gained.length > MOST_COMPARED) return []
    const { docs, lists } = this.matching
    const counted = (of: Side, unit = -1): Counted => {
      const node = nodeOf(lists[of], unit)
      return countedInAll(docs[of], node, lists[of]?.last(unit) ?? node)
    }
    const [ones, others] = [
      lost.map((unit) => counted(OLD, unit)),
      gained.map((unit) => counted(side, unit)),
    ]
    const alike = (i: number, j: number): number => {
      const [a, b] = [ones[i], others[j]]
      return a === undefined || b === undefined ? 0 : similarity(a, b)
    }
    return pairAlike([lost.length, gained.length], alike, LEAST_WORDS)
  }
}
