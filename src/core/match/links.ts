import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { longestIncreasing } from '../likeness/rising.ts'
import type { Pair } from '../likeness/only-ones.ts'

/** Why items of two documents are taken for one, the surest first. */
const REASONS = [
  'identity',
  'equal',
  'equal-in-both',
  'moved',
  'alike',
  'place',
  'moved-and-changed',
  'renamed',
] as const
export type Reason = (typeof REASONS)[number]

/** A side that is compared with old. */
export type Changed = typeof NEW | typeof MINE

/**
 * Which item of one document is which of the others. Links are made in falling certainty and never undone; one
 * is refused where the entry would be two of one document, or have two identities.
 */
export class Links {
  /** The items of each class by document; -1 where it has none there. A class that was joined has none. */
  private readonly slots: Triple<Int32Array>
  private readonly classes: Triple<Int32Array>
  private readonly reasons: Uint8Array
  /** Of each side its chain, as long as no more is linked. */
  private readonly chains: (readonly Pair[] | undefined)[] = []

  /** @param name what names an item; undefined where nothing does */
  constructor(
    lengths: Triple<number>,
    private readonly name: (side: Side, at: number) => string | undefined,
  ) {
    const all = lengths[OLD] + lengths[NEW] + lengths[MINE]
    this.slots = triple(() => new Int32Array(all).fill(-1))
    this.classes = triple((side) => new Int32Array(lengths[side]))
    this.reasons = new Uint8Array(all)
    let cls = 0
    for (const side of SIDES)
      for (let at = 0; at < lengths[side]; at++) {
        this.slots[side][cls] = at
        this.classes[side][at] = cls++
      }
  }

  /** The class of an item. */
  classOf(side: Side, at: number): number {
    return this.classes[side][at] ?? -1
  }

  /** The item of a class in a document, or -1. */
  member(side: Side, cls: number): number {
    return this.slots[side][cls] ?? -1
  }

  /** The item of another document that an item is one with, or -1. */
  partner(side: Side, at: number, other: Side): number {
    return this.member(other, this.classOf(side, at))
  }

  /** Whether neither new nor mine has an item of a class. */
  isInOldAlone(cls: number): boolean {
    return this.member(NEW, cls) < 0 && this.member(MINE, cls) < 0
  }

  /** How many classes there are, those that were joined to another among them. */
  get length(): number {
    return this.reasons.length
  }

  /** Why the items of a class are taken for one: the least sure of its links. */
  reason(cls: number): Reason | undefined {
    const code = surely(this.reasons[cls])
    return code === 0 ? undefined : REASONS[code - 1]
  }

  /** Takes two items for one, if they can be; gives whether they are. */
  link(a: Side, i: number, b: Side, j: number, why: Reason): boolean {
    const [into, from] = [this.classOf(a, i), this.classOf(b, j)]
    if (into === from) return true
    if (SIDES.some((side) => this.member(side, into) >= 0 && this.member(side, from) >= 0))
      return false
    if (why !== 'renamed' && !this.mayBeOne(into, from)) return false
    for (const side of SIDES) {
      const at = this.member(side, from)
      if (at < 0) continue
      this.slots[side][into] = at
      this.slots[side][from] = -1
      this.classes[side][at] = into
    }
    this.reasons[into] = REASONS.indexOf(why) + 1
    this.chains.length = 0
    return true
  }

  private mayBeOne(into: number, from: number): boolean {
    return this.nameOfClass(into) === this.nameOfClass(from)
  }

  /** What names a class; undefined where nothing does. */
  private nameOfClass(cls: number): string | undefined {
    for (const side of SIDES) {
      const at = this.member(side, cls)
      const name = at < 0 ? undefined : this.name(side, at)
      if (name !== undefined) return name
    }
    return undefined
  }

  /** Items of old and of a side that are one, as far as they are in one order in both. */
  chain(side: Changed): readonly Pair[] {
    return (this.chains[side] ??= this.chainOf(side))
  }

  private chainOf(side: Changed): Pair[] {
    const olds: number[] = []
    const partners: number[] = []
    for (let at = 0; at < this.count(OLD); at++) {
      const partner = this.partner(OLD, at, side)
      if (partner < 0) continue
      olds.push(at)
      partners.push(partner)
    }
    const stays = longestIncreasing(partners)
    const pairs: Pair[] = []
    for (const [i, at] of olds.entries()) if (stays[i] === 1) pairs.push([at, surely(partners[i])])
    return pairs
  }

  /** Whether a side has entries that all three have in another order than old. */
  isReordered(side: Changed): boolean {
    const other = otherSide(side)
    let before = -1
    for (let at = 0; at < this.count(side); at++) {
      const old = this.partner(side, at, OLD)
      if (old < 0 || this.partner(side, at, other) < 0) continue
      if (old < before) return true
      before = old
    }
    return false
  }

  /** How many items a document has. */
  count(side: Side): number {
    return this.classes[side].length
  }

  /** Items of a stretch of one document that another document has not. */
  private free(side: Side, from: number, to: number, other: Side): number[] {
    const found: number[] = []
    for (let at = from; at < to; at++) if (this.partner(side, at, other) < 0) found.push(at)
    return found
  }

  /** What stands between the links of old and a side, without what is linked across them. */
  gaps(side: Changed): Gap[] {
    const gaps: Gap[] = []
    let [i, j] = [-1, -1]
    for (const [x, y] of [...this.chain(side), [this.count(OLD), this.count(side)] as Pair]) {
      const old = this.free(OLD, i + 1, x, side)
      const put = this.free(side, j + 1, y, OLD)
      if (old.length > 0 && put.length > 0) gaps.push({ old, put })
      ;[i, j] = [x, y]
    }
    return gaps
  }
}

/** A stretch between two entries of old that a side has, too. */
export interface Gap {
  /** Entries of old in it that the side has not. */
  old: number[]
  /** Entries that the side has there and that are none of old's. */
  put: number[]
}

/** The side that is not this one. */
export function otherSide(side: Changed): Changed {
  return side === NEW ? MINE : NEW
}
