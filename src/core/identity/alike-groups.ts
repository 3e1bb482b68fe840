import { FeatureCache, numberedSimilarity } from './feature-cache.ts'
import type { ListKeys } from './unit-keys.ts'
import type { Matching } from './matching.ts'
import type { PairingRule, Sequence } from './sequence.ts'
import { pairSequences } from './sequence.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/** Entries without identity are one from half of their values on; in their order from a quarter on. */
const BY_LIKENESS: PairingRule = { least: 0.5, leastInOrder: 0.25 }
/** Those that share an identity, or lack one that others have, from fewer; in their order whatever they share. */
const AMONG_IDENTIFIED: PairingRule = { least: 0.3, leastInOrder: 0 }

/**
 * Matches what no key tells apart: entries without identity, and entries that share one. Old and new
 * are aligned first; then mine with what the two have together, where an entry may be equal to either.
 */
export class AlikeGroups {
  private readonly features: FeatureCache

  constructor(
    private readonly matching: Matching,
    private readonly keys: Triple<ListKeys>,
  ) {
    this.features = new FeatureCache(matching)
  }

  /** @param sides the documents whose entries are to be matched; old and new among them */
  match(sides: readonly Side[]): void {
    const groups = new Map<string, Triple<number[]>>()
    for (const side of sides) {
      for (const [unit, name] of this.keys[side].alikeGroup.entries()) {
        if (name === undefined) continue
        const units = groups.get(name) ?? [[], [], []]
        units[side].push(unit)
        groups.set(name, units)
      }
    }
    for (const [name, units] of groups) {
      const identified = this.matching.keying.means.get(name.slice(1))?.by === 'identity'
      this.matchGroup(units, name.startsWith('!') || identified ? AMONG_IDENTIFIED : BY_LIKENESS)
    }
  }

  private matchGroup(units: Triple<number[]>, rule: PairingRule): void {
    const { matching } = this
    const sequence = (side: Side): Sequence => ({
      length: units[side].length,
      keys: (at) => [this.keyOf(side, units[side][at] ?? -1)],
    })
    const partners = new Map<number, number>()
    const alike = (i: number, j: number): number =>
      this.likeness([[OLD, units[OLD][i] ?? -1]], units[NEW][j] ?? -1, NEW)
    for (const [i, j] of pairSequences(sequence(OLD), sequence(NEW), alike, rule))
      partners.set(j, i)
    const classes = this.vanillaClasses(units, partners)
    const members = (at: number): [Side, number][] =>
      [NEW, OLD].flatMap((side): [Side, number][] => {
        const unit = matching.unit(side as Side, classes[at] ?? -1) // one of the two
        return unit < 0 ? [] : [[side as Side, unit]]
      })
    const merged: Sequence = {
      length: classes.length,
      keys: (at) => members(at).map(([side, unit]) => this.keyOf(side, unit)),
    }
    const toMine = (i: number, j: number): number =>
      this.likeness(members(i), units[MINE][j] ?? -1, MINE)
    const found = new Set<number>()
    for (const [i, j] of pairSequences(merged, sequence(MINE), toMine, rule)) {
      matching.put(classes[i] ?? -1, MINE, units[MINE][j] ?? -1)
      found.add(j)
    }
    for (const [j, unit] of units[MINE].entries()) if (!found.has(j)) matching.add(MINE, unit)
  }

  /** Classes of old and new in one order: new's, with what only old has behind what it followed there. */
  private vanillaClasses(units: Triple<number[]>, partners: ReadonlyMap<number, number>): number[] {
    const { matching } = this
    for (const unit of units[OLD]) matching.add(OLD, unit)
    const order: number[] = []
    for (const [j, unit] of units[NEW].entries()) {
      const partner = partners.get(j)
      const cls =
        partner === undefined ? -1 : (matching.classOf[OLD][units[OLD][partner] ?? -1] ?? -1)
      if (cls >= 0) matching.put(cls, NEW, unit)
      order.push(cls >= 0 ? cls : matching.add(NEW, unit))
    }
    let previous = -1
    for (const unit of units[OLD]) {
      const cls = matching.classOf[OLD][unit] ?? -1
      if (matching.unit(NEW, cls) < 0) order.splice(order.indexOf(previous) + 1, 0, cls)
      previous = cls
    }
    return order
  }

  private keyOf(side: Side, unit: number): string {
    return this.keys[side].content(unit)
  }

  /** The best likeness of a unit to any of the members; to be equal to the first of them is best of all. */
  private likeness(members: readonly [Side, number][], unit: number, side: Side): number {
    let best = 0
    for (const [rank, [other, otherUnit]] of members.entries()) {
      const score =
        this.keyOf(other, otherUnit) === this.keyOf(side, unit)
          ? 1.002 - rank / 1000
          : Math.min(
              0.99,
              numberedSimilarity(this.features.of(other, otherUnit), this.features.of(side, unit)),
            )
      best = Math.max(best, score)
    }
    return best
  }
}
