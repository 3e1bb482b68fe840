import type { ListKeys } from './unit-keys.ts'
import { UnitKeys } from './unit-keys.ts'
import type { Matching } from './matching.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'

/**
 * Matches units of one key in their order: the first with the first, the second with the second. Old
 * and new are matched to the end before mine is looked at, and mine is compared with new before old:
 * so what a carry has brought from new is found again as that when the carry is repeated.
 */
export class ByKey {
  readonly keys: Triple<ListKeys>
  private readonly unitKeys: UnitKeys
  /** The classes of each key, in the order of the documents. */
  private readonly classes = new Map<string, number[]>()
  /** Where each key is one entry: the units of new that old has not. */
  private readonly addedByNew = new Map<string, number>()

  constructor(private readonly matching: Matching) {
    this.unitKeys = new UnitKeys(matching.keying)
    this.keys = triple((side) => this.unitKeys.of(side))
  }

  /** Notes the classes that nothing but their order tells apart. */
  findTwins(): void {
    const alike = new Map<string, number[]>()
    const { matching } = this
    const { keying } = matching
    const { isUnique } = this.unitKeys
    const hasWords = SIDES.some((side) => keying.hasWords(side))
    if (isUnique && matching.joined.size === 0 && !hasWords) return
    for (let cls = 0; cls < matching.length; cls++) {
      // what has a key of its own in old has it in all documents, unless it was renamed
      const old = matching.unit(OLD, cls)
      const isKept = isUnique && old >= 0 && !matching.joined.has(cls)
      if (isKept && !keying.isWords(OLD, old)) continue
      const side = SIDES.findLast((each) => matching.unit(each, cls) >= 0)
      if (side === undefined) continue
      const key = this.keys[side].alone(matching.unit(side, cls))
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
      const { inContext, length } = this.keys[side]
      for (let unit = 0; unit < length; unit++) {
        if (this.unitKeys.isUnique && !keying.isWords(side, unit)) {
          this.placeUnique(side, unit)
          continue
        }
        const key = inContext(unit)
        if (key === undefined) continue
        const occurrence = used.get(key) ?? 0
        used.set(key, occurrence + 1)
        const cls = this.classes.get(key)?.[occurrence]
        if (cls === undefined) this.addClass(side, unit, key)
        else this.matching.put(cls, side, unit)
      }
    }
  }

  /** Where each key is one entry, its class is that of old's unit, or of new's. */
  private placeUnique(side: Side, unit: number): void {
    const { matching } = this
    const cls = side === OLD ? undefined : this.uniqueClass(side, unit)
    if (cls !== undefined) matching.put(cls, side, unit)
    else if (side !== NEW) matching.add(side, unit)
    else {
      matching.add(side, unit)
      this.addedByNew.set(this.keys[NEW].alone(unit), unit)
    }
  }

  private uniqueClass(side: Side, unit: number): number | undefined {
    const { classOf } = this.matching
    const old = this.unitKeys.oldUnit(side, unit)
    if (old !== undefined) return classOf[OLD][old]
    const added = this.addedByNew.get(this.keys[side].alone(unit))
    return added === undefined ? undefined : classOf[NEW][added]
  }

  addMine(): void {
    const { matching } = this
    const left = this.unitKeys.isUnique ? this.addUnique() : this.unitsOfMine()
    const { inContext } = this.keys[MINE]
    const unmatched = this.take(
      NEW,
      left.filter((unit) => inContext(unit) !== undefined),
    )
    for (const unit of this.take(OLD, unmatched)) matching.add(MINE, unit)
  }

  private unitsOfMine(): number[] {
    return Array.from({ length: this.keys[MINE].length }, (_, unit) => unit)
  }

  /**
   * Where each key is one entry: gives mine's entries to the classes of their keys; what is left over is
   * given back. A renamed entry has two keys, of which new's goes first.
   */
  private addUnique(): number[] {
    const { matching } = this
    const left: number[] = []
    const byOldName: number[] = []
    for (let unit = 0; unit < this.keys[MINE].length; unit++) {
      const isWords = matching.keying.isWords(MINE, unit)
      const cls = isWords ? undefined : this.uniqueClass(MINE, unit)
      if (cls === undefined) left.push(unit)
      else if (matching.joined.has(cls) && this.unitKeys.oldUnit(MINE, unit) !== undefined)
        byOldName.push(unit)
      else matching.put(cls, MINE, unit)
    }
    for (const unit of byOldName) {
      const cls = this.uniqueClass(MINE, unit)
      if (cls === undefined || matching.unit(MINE, cls) >= 0) left.push(unit)
      else matching.put(cls, MINE, unit)
    }
    return byOldName.length === 0 ? left : left.sort((a, b) => a - b)
  }

  /** Gives mine's units to the classes whose unit in `side` has their key; what is left over is given back. */
  private take(side: Side, units: readonly number[]): number[] {
    const { matching } = this
    const free = new Map<string, number[]>()
    const { inContext, length } = this.keys[side]
    for (let unit = 0; units.length > 0 && unit < length; unit++) {
      const cls = matching.classOf[side][unit] ?? -1
      if (matching.unit(MINE, cls) >= 0) continue
      const key = inContext(unit)
      if (key === undefined) continue
      const waiting = free.get(key)
      if (waiting === undefined) free.set(key, [cls])
      else waiting.push(cls)
    }
    for (const waiting of free.values()) waiting.reverse()
    return units.filter((unit) => {
      const cls = free.get(this.keys[MINE].inContext(unit) ?? '')?.pop()
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
