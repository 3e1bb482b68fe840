import { canonical } from '../formats/canonical.ts'
import { identityText } from './expression.ts'
import type { EntryIndex } from './finder.ts'
import type { Keying, Means } from './keying.ts'
import type { Side } from '../document/sides.ts'
import { OLD, SIDES, triple } from '../document/sides.ts'

/** The keys of a list's units. */
export interface ListKeys {
  length: number
  /** Equal for units that are one; undefined where only likeness can tell. */
  inContext: (unit: number) => string | undefined
  /** The same without regard to where the unit stands. */
  alone: (unit: number) => string
  /** Among which others a unit is found by likeness: `?` all of a group, `!` those of one identity. */
  alikeGroup: readonly (string | undefined)[]
  /** What a unit holds, in a form that is equal for equal content. */
  content: (unit: number) => string
}

/**
 * The keys of one container's units. Where each entry has one of its own they are worked out for those
 * alone that are not linked: in a big container most have the same text in all documents.
 */
export class UnitKeys {
  /** Whether every entry has a key that no other entry of its document has. */
  readonly isUnique: boolean
  private readonly known = triple((): (string | undefined)[] => [])
  private readonly contents = triple(() => new Map<number, string>())
  /** For each group of old that has an index, its units in the order of the index. */
  private readonly indexed = new Map<string, { index: EntryIndex; units: Int32Array }>()
  /** The unit of old that has a key, those with an index left out; complete where `isUnique` holds. */
  private readonly oldUnits = new Map<string, number>()
  private readonly sharedKeys: ReadonlySet<string>

  constructor(private readonly keying: Keying) {
    for (const [group, index] of keying.indexes) this.addIndex(group, index)
    this.addOldUnits()
    this.isUnique = SIDES.every((side) => this.hasUniqueKeys(side))
    this.sharedKeys = this.isUnique ? new Set() : this.findShared()
  }

  private addIndex(group: string, index: EntryIndex): void {
    const units = new Int32Array(index.nodes.length)
    const groups = this.keying.groups[OLD]
    let at = 0
    for (let unit = 0; unit < groups.length && at <= units.length; unit++)
      if (groups[unit] === group) units[at++] = unit
    if (at === units.length) this.indexed.set(group, { index, units })
  }

  private addOldUnits(): void {
    const { keying, oldUnits } = this
    const groups = keying.groups[OLD]
    for (let unit = 0; unit < groups.length; unit++) {
      if (this.indexed.has(groups[unit] ?? '') || keying.isWords(OLD, unit)) continue
      oldUnits.set(this.key(OLD, unit), unit)
    }
  }

  /** The unit of old that is told by the same as a unit; undefined where there is none, or several. */
  oldUnit(side: Side, unit: number): number | undefined {
    const linked = this.keying.linked(side, unit)
    if (linked >= 0) return linked
    const group = this.keying.groups[side][unit] ?? ''
    const indexed = this.indexed.get(group)
    if (indexed === undefined) return this.oldUnits.get(this.key(side, unit))
    const means = this.keying.means.get(group)
    const value = means?.by === 'identity' ? this.identity(side, unit, means) : undefined
    const at = value === undefined ? undefined : indexed.index.ranks.get(value)
    return at === undefined ? undefined : indexed.units[at]
  }

  /** What is linked to different units of old has different keys where those have. */
  private hasUniqueKeys(side: Side): boolean {
    const { keying } = this
    const groups = keying.groups[side]
    const taken = new Uint8Array(side === OLD ? 0 : keying.groups[OLD].length)
    if (side !== OLD) {
      for (let unit = 0; unit < groups.length; unit++) {
        const linked = keying.linked(side, unit)
        if (linked >= 0) taken[linked] = 1
      }
    }
    const own = new Set<string>()
    for (let unit = 0; unit < groups.length; unit++) {
      if (keying.linked(side, unit) >= 0 || keying.isWords(side, unit)) continue
      const group = groups[unit] ?? ''
      if (side === OLD) {
        if (this.indexed.has(group)) continue
        const key = this.key(OLD, unit)
        if (this.isByLikeness(group, key) || this.oldUnits.get(key) !== unit) return false
        continue
      }
      const key = this.key(side, unit)
      if (this.isByLikeness(group, key)) return false
      const old = this.oldUnit(side, unit)
      if (own.has(key) || (old !== undefined && taken[old] === 1)) return false
      own.add(key)
    }
    return true
  }

  /**
   * The keys under which each unit of a document is looked for in the others. Comments and texts are
   * looked for behind the entry that they follow: the same words may stand in many places.
   */
  of(side: Side): ListKeys {
    const { keying } = this
    const { length } = keying.groups[side]
    const alone = (unit: number): string => this.key(side, unit)
    const content = (unit: number): string => this.content(side, unit)
    if (this.isUnique && !keying.hasWords(side)) {
      // each is told by its key, wherever it stands
      return { length, alone, inContext: alone, alikeGroup: [], content }
    }
    const inContext: (string | undefined)[] = []
    const alikeGroup: (string | undefined)[] = []
    let previous = ''
    for (let unit = 0; unit < length; unit++) {
      const group = keying.groups[side][unit] ?? ''
      const key = alone(unit)
      const words = keying.isWords(side, unit)
      const shared = this.sharedKeys.has(key)
      const alike = !words && (shared || this.isByLikeness(group, key))
      alikeGroup.push(alike ? (shared ? `!${key}` : `?${group}`) : undefined)
      inContext.push(alike ? undefined : words ? `${key}\0${previous}` : key)
      if (!words) previous = key
    }
    return { length, alone, inContext: (unit) => inContext[unit], alikeGroup, content }
  }

  private isByLikeness(group: string, key: string): boolean {
    const means = this.keying.means.get(group)
    return means?.by === 'likeness' || (means?.by === 'identity' && lacksIdentity(group, key))
  }

  /** What a unit holds; the same text for all that are linked. */
  private content(side: Side, unit: number): string {
    const { keying } = this
    const linked = keying.linked(side, unit)
    if (linked >= 0) return this.content(OLD, linked)
    let known = this.contents[side].get(unit)
    if (known === undefined) {
      known = canonical(keying.docs[side], keying.lists[side]?.node[unit] ?? 0)
      this.contents[side].set(unit, known)
    }
    return known
  }

  /** What tells a unit apart, without regard to where it stands. */
  private key(side: Side, unit: number): string {
    const linked = this.keying.linked(side, unit)
    const group = this.keying.groups[side][unit] ?? ''
    const means = this.keying.means.get(group)
    if (linked >= 0 && means?.by !== 'index') return this.key(OLD, linked)
    return (this.known[side][unit] ??= this.keyBy(side, unit, group, means))
  }

  private keyBy(side: Side, unit: number, group: string, means: Means | undefined): string {
    switch (means?.by) {
      case 'index':
        return `${group}\0${this.keying.placeInTuple(side, unit)}`
      case 'value':
      case 'likeness':
        return `${group}\0${this.content(side, unit)}`
      case 'identity': {
        const identity = this.identity(side, unit, means)
        return identity === undefined
          ? `${group}\0?${this.content(side, unit)}`
          : `${group}\0!${identity}`
      }
      default:
        return group
    }
  }

  private identity(
    side: Side,
    unit: number,
    { identity }: Extract<Means, { by: 'identity' }>,
  ): string | undefined {
    const { docs, lists } = this.keying
    return identityText(docs[side], lists[side]?.node[unit] ?? 0, identity)
  }

  /** Identities that several entries of one document share. */
  private findShared(): Set<string> {
    const shared = new Set<string>()
    for (const side of SIDES) {
      const seen = new Set<string>()
      for (const [unit, group] of this.keying.groups[side].entries()) {
        const by = this.keying.means.get(group)?.by
        if (by !== 'identity' && by !== 'occurrence') continue
        const key = this.key(side, unit)
        if (seen.has(key) && !lacksIdentity(group, key)) shared.add(key)
        seen.add(key)
      }
    }
    return shared
  }
}

/** Whether a key by identity is of an entry that has none. */
function lacksIdentity(group: string, key: string): boolean {
  return key.charCodeAt(group.length + 1) === 63
}
