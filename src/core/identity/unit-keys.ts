import { nodeOf } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import { identityText } from './expression.ts'
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

/** The keys of one container's units. */
export class UnitKeys {
  /** Whether every entry has a key that no other entry of its document has. */
  readonly isUnique: boolean
  private readonly known = triple((): (string | undefined)[] => [])
  private readonly contents = triple((): (string | undefined)[] => [])
  /** The unit of old that has a key; complete where `isUnique` holds. */
  private readonly oldUnits = new Map<string, number>()
  private readonly sharedKeys: ReadonlySet<string>

  constructor(private readonly keying: Keying) {
    this.isUnique = SIDES.every((side) => this.hasUniqueKeys(side))
    this.sharedKeys = this.isUnique ? new Set() : this.findShared()
  }

  /** The unit of old that is told by the same as a unit; undefined where there is none. */
  oldUnit(side: Side, unit: number): number | undefined {
    return this.oldUnits.get(this.key(side, unit))
  }

  private hasUniqueKeys(side: Side): boolean {
    const { keying } = this
    const groups = keying.groups[side]
    const own = side === OLD ? this.oldUnits : new Map<string, number>()
    for (const [unit, group] of groups.entries()) {
      if (keying.isWords(side, unit)) continue
      const key = this.key(side, unit)
      if (own.has(key) || this.isByLikeness(group, key)) return false
      own.set(key, unit)
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

  /** What a unit holds, in a form that is equal for equal content. */
  private content(side: Side, unit: number): string {
    const { docs, lists } = this.keying
    return (this.contents[side][unit] ??= canonical(docs[side], nodeOf(lists[side], unit)))
  }

  /** What tells a unit apart, without regard to where it stands. */
  private key(side: Side, unit: number): string {
    const group = this.keying.groups[side][unit] ?? ''
    const means = this.keying.means.get(group)
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
    return identityText(docs[side], nodeOf(lists[side], unit), identity)
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
