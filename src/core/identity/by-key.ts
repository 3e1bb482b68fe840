import type { UnitKeys } from './keying.ts'
import type { Matching } from './matching.ts'
import type { Side, Triple } from './sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from './sides.ts'

/**
 * Matches units of one key in their order: the first with the first, the second with the second. Old
 * and new are matched to the end before mine is looked at, and mine is compared with new before old:
 * so what a carry has brought from new is found again as that when the carry is repeated.
 */
export class ByKey {
  readonly keys: Triple<UnitKeys>
  /** The classes of each key, in the order of the documents. */
  private readonly classes = new Map<string, number[]>()

  constructor(private readonly matching: Matching) {
    this.keys = triple((side) => matching.keying.keys(side))
  }

  /** Notes the classes that nothing but their order tells apart. */
  findTwins(): void {
    const alike = new Map<string, number[]>()
    const { matching } = this
    for (let cls = 0; cls < matching.length; cls++) {
      const side = SIDES.findLast((each) => matching.unit(each, cls) >= 0)
      if (side === undefined) continue
      const key = this.keys[side].alone[matching.unit(side, cls)] ?? ''
      const known = alike.get(key)
      if (known === undefined) alike.set(key, [cls])
      else known.push(cls)
    }
    for (const twins of alike.values()) {
      if (twins.length < 2) continue
      for (const [i, twin] of twins.entries()) {
        matching.twins.set(twin, twins)
        if (i > 0) matching.occurrence.set(twin, i + 1)
      }
    }
  }

  addVanilla(): void {
    for (const side of [OLD, NEW] as const) {
      const used = new Map<string, number>()
      for (const [unit, key] of this.keys[side].inContext.entries()) {
        if (key === undefined) continue
        const occurrence = used.get(key) ?? 0
        used.set(key, occurrence + 1)
        const cls = this.classes.get(key)?.[occurrence]
        if (cls === undefined) this.addClass(side, unit, key)
        else this.matching.put(cls, side, unit)
      }
    }
  }

  addMine(): void {
    const all = [...this.keys[MINE].inContext.keys()]
    const keyed = all.filter((unit) => this.keys[MINE].inContext[unit] !== undefined)
    const unmatched = this.take(NEW, keyed)
    for (const unit of this.take(OLD, unmatched)) this.matching.add(MINE, unit)
  }

  /** Gives mine's units to the classes whose unit in `side` has their key; what is left over is given back. */
  private take(side: Side, units: readonly number[]): number[] {
    const { matching } = this
    const free = new Map<string, number[]>()
    for (const [unit, key] of this.keys[side].inContext.entries()) {
      const cls = matching.classOf[side][unit] ?? -1
      if (key === undefined || matching.unit(MINE, cls) >= 0) continue
      const waiting = free.get(key)
      if (waiting === undefined) free.set(key, [cls])
      else waiting.push(cls)
    }
    for (const waiting of free.values()) waiting.reverse()
    return units.filter((unit) => {
      const cls = free.get(this.keys[MINE].inContext[unit] ?? '')?.pop()
      if (cls !== undefined) matching.put(cls, MINE, unit)
      return cls === undefined
    })
  }

  private addClass(side: Side, unit: number, key: string): void {
    const cls = this.matching.add(side, unit)
    const known = this.classes.get(key)
    if (known === undefined) this.classes.set(key, [cls])
    else known.push(cls)
  }
}
