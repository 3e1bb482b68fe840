import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import { isChildless } from './aligned.ts'
import type { IdentityExpression } from './expression.ts'
import { identityOf } from './expression.ts'
import type { Identities } from './identities.ts'
import { linkEqual } from './links.ts'
import type { Side, Triple } from './sides.ts'
import { OLD, SIDES, triple } from './sides.ts'

/**
 * How the siblings of one group (elements of one name, items of one array) are told apart:
 * `single` where each document has at most one, by `identity`, by their `value`, by `index` where an
 * array is a tuple of numbers, by `occurrence` of their name, else by `likeness`.
 */
export type Means =
  | { by: 'single' | 'value' | 'index' | 'occurrence' | 'likeness' }
  | { by: 'identity'; identity: IdentityExpression }

/** What a unit is told apart among: comments, texts, items of an array, or entries of one name. */
export function groupOf(doc: Doc, node: number): string {
  const kind = doc.kind(node)
  switch (kind) {
    case Kind.Element:
    case Kind.Member:
    case Kind.Section:
    case Kind.Property:
    case Kind.Attribute:
    case Kind.Instruction:
      return `${kind}:${doc.name(node)}`
    default:
      return `${kind}:`
  }
}

/** Where a container stands: its place, and whether it is the document itself. */
export interface Scope {
  place: string
  isDocument: boolean
  identities: Identities
}

const ROOTS: ReadonlySet<Kind> = new Set([Kind.Element, Kind.Object, Kind.Array, Kind.Scalar])
const ROOT_GROUP = 'root'

/** By an identity where there is one; what is alone of its kind in every document is that one anyway. */
function identified(identity: IdentityExpression | undefined, most: number): Means {
  if (identity !== undefined) return { by: 'identity', identity }
  return most === 1 ? { by: 'single' } : { by: 'likeness' }
}

/** The means for each group of one container, and the key of each of its units. */
export class Keying {
  readonly means = new Map<string, Means>()
  readonly groups: [string[], string[], string[]]
  /** For each unit of new and mine the unit of old with the same text, or -1: what holds for the one holds for the other. */
  private readonly links: Triple<Int32Array | undefined>
  /** What tells each unit apart, without regard to where it stands. */
  private readonly rawKeys: [string[], string[], string[]]
  private readonly contents = triple(() => new Map<number, string>())
  /** Whether names that differ by capitals alone are one, where no document has both. */
  private readonly foldCase: boolean
  private readonly apartByCase: ReadonlySet<string>
  private readonly sharedKeys: ReadonlySet<string>
  /** The unit of old that has a key; complete where `isUnique` holds. */
  readonly oldUnits: Map<string, number>
  /** Whether every entry has a key that no other entry of its document has. */
  readonly isUnique: boolean

  constructor(
    private readonly docs: Triple<Doc>,
    private readonly lists: Triple<UnitList | undefined>,
    private readonly scope: Scope,
  ) {
    this.foldCase = docs.some((doc) => doc.format.foldsCase)
    this.apartByCase = this.foldCase ? this.findApart() : new Set()
    this.links = triple((side) => this.linksOf(side))
    this.groups = [[], [], []]
    for (const side of SIDES) this.groups[side] = this.groupsOf(side)
    this.choose()
    this.rawKeys = [[], [], []]
    for (const side of SIDES) this.rawKeys[side] = this.rawKeysOf(side)
    this.oldUnits = this.firstUnits()
    this.isUnique = SIDES.every((side) => this.hasUniqueKeys(side))
    this.sharedKeys = this.isUnique ? new Set() : this.findShared()
  }

  private firstUnits(): Map<string, number> {
    const units = new Map<string, number>()
    const keys = this.rawKeys[OLD]
    for (let unit = 0; unit < keys.length; unit++)
      if (!this.isWords(OLD, unit)) units.set(keys[unit] ?? '', unit)
    return units
  }

  /** What is linked to different units of old has different keys where those have. */
  private hasUniqueKeys(side: Side): boolean {
    const links = this.links[side]
    const taken = new Uint8Array(this.rawKeys[OLD].length)
    for (const unit of links ?? []) if (unit >= 0) taken[unit] = 1
    const own = new Set<string>()
    const keys = this.rawKeys[side]
    for (let unit = 0; unit < keys.length; unit++) {
      if ((links?.[unit] ?? -1) >= 0 || this.isWords(side, unit)) continue
      const key = keys[unit] ?? ''
      if (this.isByLikeness(this.groups[side][unit] ?? '', key)) return false
      const old = this.oldUnits.get(key)
      if (side === OLD) {
        if (old !== unit) return false
        continue
      }
      if (own.has(key) || (old !== undefined && taken[old] === 1)) return false
      own.add(key)
    }
    return true
  }

  /** Whether a unit is a comment or a text: it is looked for where it stands. */
  isWords(side: Side, unit: number): boolean {
    const kind = this.docs[side].kind(this.lists[side]?.node[unit] ?? 0)
    return kind === Kind.Comment || kind === Kind.Text
  }

  /** Whether any unit of a document is a comment or a text. */
  hasWords(side: Side): boolean {
    const { length } = this.rawKeys[side]
    for (let unit = 0; unit < length; unit++) if (this.isWords(side, unit)) return true
    return false
  }

  private linksOf(side: Side): Int32Array | undefined {
    const [old, list] = [this.lists[OLD], this.lists[side]]
    if (side === OLD || old === undefined || list === undefined) return undefined
    return linkEqual({ tree: old.tree, nodes: old.node }, { tree: list.tree, nodes: list.node })
  }

  /** The unit of old that has the same text, or -1. */
  linked(side: Side, unit: number): number {
    return this.links[side]?.[unit] ?? -1
  }

  /** Names, in small letters, that one document has in two spellings: there capitals tell apart. */
  private findApart(): Set<string> {
    const apart = new Set<string>()
    for (const side of SIDES) {
      const spelled = new Map<string, string>()
      for (const node of this.lists[side]?.node ?? []) {
        const group = groupOf(this.docs[side], node)
        const known = spelled.get(group.toLowerCase())
        if (known !== undefined && known !== group) apart.add(group.toLowerCase())
        spelled.set(group.toLowerCase(), group)
      }
    }
    return apart
  }

  private groupsOf(side: Side): string[] {
    const doc = this.docs[side]
    const groups: string[] = []
    for (const node of this.lists[side]?.node ?? []) {
      const known = this.groups[OLD][this.linked(side, groups.length)]
      groups.push(known ?? this.groupAt(doc, node))
    }
    return groups
  }

  private groupAt(doc: Doc, node: number): string {
    if (this.scope.isDocument && ROOTS.has(doc.kind(node))) return ROOT_GROUP
    const group = groupOf(doc, node)
    const small = this.foldCase ? group.toLowerCase() : group
    return this.foldCase && !this.apartByCase.has(small) ? small : group
  }

  private choose(): void {
    const most = new Map<string, number>()
    for (const side of SIDES) {
      const counts = countRuns(this.groups[side])
      for (const [group, count] of counts) most.set(group, Math.max(most.get(group) ?? 0, count))
    }
    for (const [group, count] of most) this.means.set(group, this.meansFor(group, count))
  }

  private meansFor(group: string, most: number): Means {
    if (group === ROOT_GROUP) return { by: 'single' }
    const kind = Number(group.slice(0, group.indexOf(':'))) as Kind // groupOf put it there
    switch (kind) {
      case Kind.Element:
        return this.meansForElements(group, most)
      case Kind.Object:
        return identified(this.scope.identities.ofItems(this.scope.place, kind), most)
      case Kind.Scalar:
        return this.isTuple() ? { by: 'index' } : { by: 'value' }
      case Kind.Array:
        return identified(this.scope.identities.ofItems(this.scope.place, kind), most)
      case Kind.Property:
        return most === 1 ? { by: 'single' } : { by: 'value' }
      case Kind.Text:
      case Kind.Comment:
        return { by: 'likeness' }
      default:
        return most === 1 ? { by: 'single' } : { by: 'occurrence' }
    }
  }

  /** Where siblings of this name stand anywhere at this place, a lone one is told by its identity too. */
  private meansForElements(group: string, most: number): Means {
    const { identities, place } = this.scope
    const name = group.slice(group.indexOf(':') + 1)
    const plain = this.every(group, (doc, node) => isChildless(doc, node))
    if (plain && !identities.isConfigured(place, name))
      return most === 1 ? { by: 'single' } : { by: 'value' }
    return identified(identities.ofElements(place, name), most)
  }

  /**
   * Arrays of one length in all documents that hold numbers alone (a point, a range, a colour) or values
   * of several types (a call with its arguments): the place of a value tells it apart.
   */
  private isTuple(): boolean {
    const sorts = SIDES.flatMap((side) => {
      const list = this.lists[side]
      if (list === undefined) return []
      const items = list.node.filter((_, unit) => !list.isComment(unit))
      return [items.map((node) => sortOfItem(this.docs[side], node))]
    })
    if (new Set(sorts.map((items) => items.length)).size !== 1) return false
    return (
      sorts.every((items) => items.every((sort) => sort === 'number')) ||
      sorts.every((items) => new Set(items).size > 1)
    )
  }

  private every(group: string, holds: (doc: Doc, node: number) => boolean): boolean {
    return SIDES.every((side) =>
      (this.lists[side]?.node ?? []).every(
        (node, unit) =>
          this.groups[side][unit] !== group ||
          this.linked(side, unit) >= 0 ||
          holds(this.docs[side], node),
      ),
    )
  }

  /**
   * The keys under which each unit of a document is looked for in the others. Comments and texts are
   * looked for behind the entry that they follow: the same words may stand in many places.
   */
  keys(side: Side): UnitKeys {
    const content = (unit: number): string => this.content(side, unit)
    const alone = this.rawKeys[side]
    const keys: UnitKeys = { inContext: [], alone, alikeGroup: [], content }
    if (this.isUnique && !this.hasWords(side)) {
      // each is told by its key, wherever it stands
      return { ...keys, inContext: alone }
    }
    let previous = ''
    for (let unit = 0; unit < alone.length; unit++) {
      const group = this.groups[side][unit] ?? ''
      const key = alone[unit] ?? ''
      const words = this.isWords(side, unit)
      const shared = this.sharedKeys.has(key)
      const alike = !words && (shared || this.isByLikeness(group, key))
      keys.alikeGroup.push(alike ? (shared ? `!${key}` : `?${group}`) : undefined)
      keys.inContext.push(alike ? undefined : words ? `${key}\0${previous}` : key)
      if (!words) previous = key
    }
    return keys
  }

  private isByLikeness(group: string, key: string): boolean {
    const means = this.means.get(group)
    return means?.by === 'likeness' || (means?.by === 'identity' && lacksIdentity(group, key))
  }

  /** What a unit holds; the same text for all that are linked. */
  private content(side: Side, unit: number): string {
    const linked = this.linked(side, unit)
    if (linked >= 0) return this.content(OLD, linked)
    let known = this.contents[side].get(unit)
    if (known === undefined) {
      known = canonical(this.docs[side], this.lists[side]?.node[unit] ?? 0)
      this.contents[side].set(unit, known)
    }
    return known
  }

  private rawKeysOf(side: Side): string[] {
    const keys: string[] = []
    const groups = this.groups[side]
    let index = 0
    for (let unit = 0; unit < groups.length; unit++) {
      const group = groups[unit] ?? ''
      const means = this.means.get(group) ?? { by: 'single' }
      const linked = this.linked(side, unit)
      if (means.by === 'index') keys.push(`${group}\0${index++}`)
      else if (linked >= 0) keys.push(this.rawKeys[OLD][linked] ?? '')
      else keys.push(this.keyBy(side, unit, group, means))
    }
    return keys
  }

  private keyBy(side: Side, unit: number, group: string, means: Means): string {
    switch (means.by) {
      case 'single':
      case 'occurrence':
      case 'index':
        return group
      case 'value':
      case 'likeness':
        return `${group}\0${this.content(side, unit)}`
      case 'identity': {
        const node = this.lists[side]?.node[unit] ?? 0
        const identity = identityOf(this.docs[side], node, means.identity)
        return identity === undefined
          ? `${group}\0?${this.content(side, unit)}`
          : `${group}\0!${identity.length === 1 ? (identity[0] ?? '') : identity.join('\0')}`
      }
    }
  }

  /** Identities that several entries of one document share. */
  private findShared(): Set<string> {
    const shared = new Set<string>()
    for (const side of SIDES) {
      const seen = new Set<string>()
      for (const [unit, key] of this.rawKeys[side].entries()) {
        const group = this.groups[side][unit] ?? ''
        const by = this.means.get(group)?.by
        if (by !== 'identity' && by !== 'occurrence') continue
        if (seen.has(key) && !lacksIdentity(group, key)) shared.add(key)
        seen.add(key)
      }
    }
    return shared
  }
}

/** How often each text occurs; of many that are the same one after the other each run is counted once. */
function countRuns(texts: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>()
  for (let at = 0; at < texts.length;) {
    const text = texts[at] ?? ''
    const start = at
    while (at < texts.length && texts[at] === text) at++
    counts.set(text, (counts.get(text) ?? 0) + at - start)
  }
  return counts
}

/** The keys of a list's units. */
export interface UnitKeys {
  /** Equal for units that are one; undefined where only likeness can tell. */
  inContext: (string | undefined)[]
  /** The same without regard to where the unit stands. */
  alone: string[]
  /** Among which others a unit is found by likeness: `?` all of a group, `!` those of one identity. */
  alikeGroup: (string | undefined)[]
  /** What a unit holds, in a form that is equal for equal content. */
  content: (unit: number) => string
}

/** Whether a key by identity is of an entry that has none. */
function lacksIdentity(group: string, key: string): boolean {
  return key.charCodeAt(group.length + 1) === 63
}

/** The sort of an item of an array: its JSON type, one for all that is in quotes. */
function sortOfItem(doc: Doc, node: number): string {
  const kind = doc.kind(node)
  if (kind !== Kind.Scalar) return `${kind}`
  const first = doc.tree.source.charAt(doc.tree.start[node] ?? 0)
  if (/[-+.0-9]/.test(first)) return 'number'
  return first === '"' || first === "'" ? 'string' : 'word'
}
