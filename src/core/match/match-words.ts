import { gather } from '../document/gather.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, PAIRS, SIDES, triple } from '../document/sides.ts'
import { nodeOf } from '../document/unit-list.ts'
import { surely } from '../document/surely.ts'
import { canonical } from '../formats/canonical.ts'
import { areAllEqual } from '../likeness/align.ts'
import type { Counted } from '../likeness/counted.ts'
import { countedInAll, similarity } from '../likeness/counted.ts'
import { pairAlike } from '../likeness/pair-alike.ts'
import type { Matching } from './matching.ts'

/** Comments at one place are one from this share of words on. */
const LEAST_WORDS = 0.3
/** Beyond this many comparisons what is left of a gap is not paired. */
const MOST_COMPARED = 40_000

/**
 * Matches comments and texts, once it is known which entry is which. Comments: those of the same words behind the
 * same entry, those of the same words elsewhere, and those that stand between the same neighbours and share words.
 * One that both sides added is one only where it is equal: neither is a new version of the other. A text beside
 * elements is content, and nothing but its place tells it.
 */
export function matchWords(matching: Matching): void {
  const words = new Words(matching)
  words.linkTexts()
  if (words.hasNoComments) return
  words.linkBehindEntries()
  words.linkEqual(OLD, NEW)
  words.linkInGaps(NEW)
  words.linkEqual(OLD, MINE)
  words.linkEqual(NEW, MINE)
  words.linkInGaps(MINE)
}

class Words {
  /** The units that are comments, and those that are texts. */
  private readonly comments: Triple<readonly number[]>
  private readonly texts: Triple<readonly number[]>

  constructor(private readonly matching: Matching) {
    const words = triple((side) =>
      [...matching.classOf[side].keys()].filter((unit) => matching.isWords(side, unit)),
    )
    for (const side of SIDES) for (const unit of words[side]) matching.addWords(side, unit)
    const isComment = (side: Side, unit: number): boolean => matching.isComment(side, unit)
    this.comments = triple((side) => words[side].filter((unit) => isComment(side, unit)))
    this.texts = triple((side) => words[side].filter((unit) => !isComment(side, unit)))
  }

  get hasNoComments(): boolean {
    return this.comments.every(({ length }) => length === 0)
  }

  /** Texts behind the same entry, in their order; where all documents have the same texts, those wherever they stand. */
  linkTexts(): void {
    const said = triple((side) => this.texts[side].map((unit) => this.text(side, unit)))
    const areSame = areAllEqual(said)
    const behind = triple((side) =>
      areSame ? new Map([['', this.texts[side]]]) : this.byPlace(side, this.texts[side], () => ''),
    )
    for (const [a, b] of PAIRS)
      for (const [place, units] of behind[a])
        for (const [i, unit] of units.entries()) this.join(a, unit, b, behind[b].get(place)?.[i])
  }

  /** The same words behind the same entry, in their order: old with new, and mine with new before old. */
  linkBehindEntries(): void {
    const inPlace = triple((side) =>
      this.byPlace(side, this.comments[side], (unit) => this.text(side, unit)),
    )
    const link = (a: Side, b: Side): void => {
      for (const [key, units] of inPlace[a]) {
        const others = (inPlace[b].get(key) ?? []).filter((unit) => this.isFree(b, unit, a))
        const own = units.filter((unit) => this.isFree(a, unit, b))
        for (const [i, unit] of own.entries()) this.join(a, unit, b, others[i])
      }
    }
    link(OLD, NEW)
    link(NEW, MINE)
    link(OLD, MINE)
  }

  /** Units by the entry behind which they stand, and by what they say. */
  private byPlace(
    side: Side,
    units: readonly number[],
    said: (unit: number) => string,
  ): Map<string, number[]> {
    const { matching } = this
    const wanted = new Set(units)
    const found = new Map<string, number[]>()
    let previous = -1
    for (const [unit, cls] of matching.classOf[side].entries()) {
      if (wanted.has(unit)) gather(found, `${previous} ${said(unit)}`, unit)
      else if (!matching.isWords(side, unit)) previous = cls
    }
    return found
  }

  private text(side: Side, unit: number): string {
    const { docs, lists } = this.matching
    const doc = docs[side]
    const node = nodeOf(lists[side], unit)
    const last = lists[side]?.last(unit) ?? node
    let text = ''
    for (let each = node; each <= last; each = doc.tree.next(each))
      text += ` ${canonical(doc, each)}`
    return text
  }

  private isFree(side: Side, unit: number, other: Side): boolean {
    const { matching } = this
    return matching.unit(other, surely(matching.classOf[side][unit])) < 0
  }

  private join(a: Side, unit: number, b: Side, other: number | undefined): void {
    const { classOf } = this.matching
    if (other !== undefined) this.matching.join(surely(classOf[a][unit]), surely(classOf[b][other]))
  }

  /**
   * Pairs what is equal and what both documents have once, wherever it stands: rulers and what is said of every
   * entry tell no place.
   */
  linkEqual(a: Side, b: Side): void {
    const [ofA, ofB] = [this.byText(a), this.byText(b)]
    for (const [text, units] of ofA) {
      const others = ofB.get(text) ?? []
      const [[unit = -1], [other = -1]] = [units, others]
      if (units.length !== 1 || others.length !== 1) continue
      if (this.isFree(a, unit, b) && this.isFree(b, other, a)) this.join(a, unit, b, other)
    }
  }

  private byText(side: Side): Map<string, number[]> {
    const found = new Map<string, number[]>()
    for (const unit of this.comments[side]) gather(found, this.text(side, unit), unit)
    return found
  }

  /** Pairs units of old and of a side that stand between the same matched neighbours. */
  linkInGaps(side: Side): void {
    const inSide = this.byGap(side, OLD)
    for (const [gap, lost] of this.byGap(OLD, side)) {
      const gained = inSide.get(gap) ?? []
      for (const [i, j] of this.pairs(lost, side, gained))
        this.join(OLD, surely(lost[i]), side, gained[j])
    }
  }

  /** Comments without partner in another document, by the class of the nearest unit before that it has, too. */
  private byGap(side: Side, other: Side): Map<number, number[]> {
    const { matching } = this
    const gaps = new Map<number, number[]>()
    let anchor = -1
    for (const [unit, cls] of matching.classOf[side].entries()) {
      if (matching.unit(other, cls) >= 0) anchor = cls
      else if (matching.isComment(side, unit)) gather(gaps, anchor, unit)
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
