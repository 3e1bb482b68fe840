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
  /** Where each key is one entry: the classes of those that old has not. */
  private readonly addedByNew = new Map<string, number>()

  constructor(private readonly matching: Matching) {
    this.keys = triple((side) => matching.keying.keys(side))
  }

  /** Notes the classes that nothing but their order tells apart. */
  findTwins(): void {
    const alike = new Map<string, number[]>()
    const { matching } = this
    const { keying } = matching
    const onlyWords = keying.isUnique && !matching.hasJoined
    if (onlyWords && !SIDES.some((side) => keying.hasWords(side))) return
    for (let cls = 0; cls < matching.length; cls++) {
      const side = SIDES.findLast((each) => matching.unit(each, cls) >= 0)
      if (side === undefined) continue
      if (onlyWords && !keying.isWords(side, matching.unit(side, cls))) continue
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
    const { keying } = this.matching
    for (const side of [OLD, NEW] as const) {
      const used = new Map<string, number>()
      const { inContext } = this.keys[side]
      for (let unit = 0; unit < inContext.length; unit++) {
        const key = inContext[unit]
        if (key === undefined) continue
        if (keying.isUnique && !keying.isWords(side, unit)) {
          this.placeUnique(side, unit, key)
          continue
        }
        const occurrence = used.get(key) ?? 0
        used.set(key, occurrence + 1)
        const cls = this.classes.get(key)?.[occurrence]
        if (cls === undefined) this.addClass(side, unit, key)
        else this.matching.put(cls, side, unit)
      }
    }
  }

  /** Where each key is one entry, its class is that of old's unit, or of new's. */
  private placeUnique(side: Side, unit: number, key: string): void {
    const { matching } = this
    const cls = side === OLD ? undefined : this.uniqueClass(side, unit, key)
    if (cls !== undefined) matching.put(cls, side, unit)
    else if (side !== NEW) matching.add(side, unit)
    else this.addedByNew.set(key, matching.add(side, unit))
  }

  private uniqueClass(side: Side, unit: number, key: string): number | undefined {
    const { keying, classOf } = this.matching
    const linked = keying.linked(side, unit)
    const old = linked >= 0 ? linked : keying.oldUnits.get(key)
    return old === undefined ? this.addedByNew.get(key) : classOf[OLD][old]
  }

  addMine(): void {
    const { matching } = this
    const { keying } = matching
    const isUnique = keying.isUnique && !matching.hasJoined
    const { inContext } = this.keys[MINE]
    const keyed: number[] = []
    for (let unit = 0; unit < inContext.length; unit++) {
      const key = inContext[unit]
      if (key === undefined) continue
      const isTold = isUnique && !keying.isWords(MINE, unit)
      const cls = isTold ? this.uniqueClass(MINE, unit, key) : undefined
      if (cls === undefined) keyed.push(unit)
      else matching.put(cls, MINE, unit)
    }
    const unmatched = this.take(NEW, keyed)
    for (const unit of this.take(OLD, unmatched)) this.matching.add(MINE, unit)
  }

  /** Gives mine's units to the classes whose unit in `side` has their key; what is left over is given back. */
  private take(side: Side, units: readonly number[]): number[] {
    const { matching } = this
    const free = new Map<string, number[]>()
    const { inContext } = this.keys[side]
    for (let unit = 0; units.length > 0 && unit < inContext.length; unit++) {
      const cls = matching.classOf[side][unit] ?? -1
      if (matching.unit(MINE, cls) >= 0) continue
      const key = inContext[unit]
      if (key === undefined) continue
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
