import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { Means, Scope } from './keying.ts'
import { Keying } from './keying.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'

/** The places of a list's units. */
export interface UnitPlaces {
  index: number[]
  rank: number[]
}

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

  /** The classes that share their key with others, to all classes of that key. */
  readonly twins = new Map<number, readonly number[]>()

  private readonly places: (UnitPlaces | undefined)[] = []
  /** The keys of all units. */
  readonly keying: Keying

  constructor(
    readonly docs: Triple<Doc>,
    readonly lists: Triple<UnitList | undefined>,
    scope: Scope,
  ) {
    this.keying = new Keying(docs, lists, scope)
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
    return unit < 0 ? -1 : (this.lists[side]?.node(unit) ?? -1)
  }

  /** Where each unit of a document stands: among the entries, from 0, and among those of its group, from 1. */
  placesOf(side: Side): UnitPlaces {
    const known = this.places[side]
    if (known !== undefined) return known
    const places: UnitPlaces = { index: [], rank: [] }
    const ranks = new Map<string, number>()
    let index = 0
    for (const [unit, group] of this.keying.groups[side].entries()) {
      const rank = (ranks.get(group) ?? 0) + 1
      ranks.set(group, rank)
      places.rank.push(rank)
      places.index.push(index)
      if (this.lists[side]?.isComment(unit) === false) index++
    }
    this.places[side] = places
    return places
  }

  /** Whether a class is empty because its units were joined to another. */
  isVoid(cls: number): boolean {
    return this.unit(OLD, cls) < 0 && this.unit(NEW, cls) < 0 && this.unit(MINE, cls) < 0
  }

  means(side: Side, unit: number): Means | undefined {
    return this.keying.means.get(this.keying.groups[side][unit] ?? '')
  }

  add(side: Side, unit: number): number {
    const cls = this.length
    this.slots[OLD].push(side === OLD ? unit : -1)
    this.slots[NEW].push(side === NEW ? unit : -1)
    this.slots[MINE].push(side === MINE ? unit : -1)
    this.classOf[side][unit] = cls
    return cls
  }

  put(cls: number, side: Side, unit: number): void {
    this.slots[side][cls] = unit
    this.classOf[side][unit] = cls
  }

  /** Classes that were joined from two, which no key made one. */
  readonly joined = new Set<number>()

  /** Makes two classes one, where no document has a unit in both; gives whether it did. */
  join(into: number, from: number): boolean {
    if (
      into === from ||
      SIDES.some((side) => this.unit(side, into) >= 0 && this.unit(side, from) >= 0)
    )
      return false
    this.joined.add(into)
    for (const side of SIDES) {
      const unit = this.unit(side, from)
      if (unit < 0) continue
      this.put(into, side, unit)
      this.slots[side][from] = -1
    }
    return true
  }
}
