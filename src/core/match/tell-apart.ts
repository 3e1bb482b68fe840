import { isRepeatable, Kind } from '../document/kind.ts'
import { timesOf } from '../document/gather.ts'
import type { Side, Triple } from '../document/sides.ts'
import { OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { customaryRank, isCustomary, isId } from '../identity/candidates.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { stemOf } from '../identity/numbers.ts'
import { parseIdentity } from '../identity/expression.ts'
import type { Identities } from '../identity/identities.ts'
import type { Inference } from '../identity/infer.ts'
import type { Aligner } from '../likeness/align.ts'
import type { Value, Values } from '../likeness/value.ts'
import { wordsIn } from '../likeness/value.ts'
import type { Item } from './item.ts'

/**
 * By what the siblings of one group (elements of one name, items of one array) are told apart: by their `name`
 * where that is all there is to tell, by an `identity`, or by nothing of their own, as items of a `sequence`.
 */
export type TellApartBy =
  | { by: 'name' }
  | ({ by: 'sequence' } & Counted)
  | ({
      by: 'identity'
      identity: IdentityExpression
      isStrong: boolean
      /** Whether a side may have numbered them anew. */
      isDoubtful?: boolean
    } & Counted)

interface Counted {
  /** Where each has a number that a side gave anew, so that it says nothing of which is which. */
  counter?: string | undefined
}

/** Where a list stands. */
export interface Scope {
  place: string
  /** Whether it is what a document holds: its root, and what stands beside that. */
  isDocument: boolean
  /** Whether the order of entries is content. */
  isOrdered: boolean
  identities: Identities
}

/** The scope of a container's list. @param hasOneRoot whether a document of its format has one root */
export function scopeOf(
  kind: Kind,
  place: string,
  hasOneRoot: boolean,
  identities: Identities,
): Scope {
  const isDocument = kind === Kind.Document && hasOneRoot
  return { place, isDocument, isOrdered: kind === Kind.Element || kind === Kind.Array, identities }
}

/** The items of a list in the three documents; none where a document lacks the list. */
export type Items = Triple<readonly Item[]>

const ROOTS: ReadonlySet<Kind> = new Set([Kind.Element, Kind.Object, Kind.Array, Kind.Scalar])
const ROOT_GROUP = 'root'

/** What an item is told apart among. */
function groupOf({ kind, name }: Pick<Item, 'kind' | 'name'>): string {
  return `${kind}:${name}`
}

/** What tells the items of one list apart. */
export class TellApart {
  /** The group of each item. */
  readonly groups: Triple<readonly string[]>
  private readonly names: Triple<readonly (string | undefined)[]>
  /** Names that several items of one document have. */
  private readonly shared: ReadonlySet<string>
  private readonly by = new Map<string, TellApartBy>()

  constructor(
    readonly items: Items,
    private readonly scope: Scope,
  ) {
    this.groups = triple((side) => this.groupsIn(side))
    for (const [group, most] of this.mostOfGroups()) this.by.set(group, this.choose(group, most))
    this.names = triple((side) => items[side].map((item, at) => this.nameOf(side, at, item)))
    this.shared = sharedIn(this.names)
  }

  /** What an item is told apart among. */
  groupOf(side: Side, at: number): string {
    return surely(this.groups[side][at])
  }

  /** What tells the items of a group apart. */
  means(group: string): TellApartBy {
    return this.by.get(group) ?? { by: 'sequence' }
  }

  /** What tells an item apart from the others of its group. */
  meansOf(side: Side, at: number): TellApartBy {
    return this.means(this.groupOf(side, at))
  }

  /** The number that some have and that a side gave anew, and whether that is sure; undefined where there is none. */
  get numberedAnew(): { counter: string; isSure: boolean } | undefined {
    for (const means of this.by.values()) {
      if (means.by === 'sequence' && means.counter !== undefined)
        return { counter: means.counter, isSure: true }
      if (means.by === 'identity' && means.isDoubtful === true)
        return { counter: means.identity.text, isSure: false }
    }
    return undefined
  }

  /** Where an item has a number that a side gave anew; undefined where there is none. */
  counter(side: Side, at: number): string | undefined {
    const means = this.meansOf(side, at)
    return means.by === 'name' ? undefined : means.counter
  }

  /** Such a number; undefined for what has none, or has one that tells it. */
  number(side: Side, at: number): string | undefined {
    const counter = this.counter(side, at)
    return counter === undefined
      ? undefined
      : this.items[side][at]?.identity(parseIdentity(counter))
  }

  /** What aligns sequences in the documents. */
  get aligner(): Aligner {
    return this.scope.identities.known.aligner
  }

  /** The values of the documents. */
  get values(): Values {
    return this.scope.identities.known.values
  }

  /** What an item holds, such a number aside. */
  content(side: Side, at: number, item: Item): Value {
    const counter = this.counter(side, at)
    return counter === undefined ? item.value : this.values.without(item.value, counter)
  }

  /**
   * Whether an item is what it is in old but for such a number. Only where something else tells it: of another one
   * nobody knows whether it went, or is one that came.
   */
  isRenumbered(side: Side, at: number, inOld: number): boolean {
    if (this.id(side, at) === undefined || this.counter(side, at) === undefined) return false
    const [item, old] = [surely(this.items[side][at]), surely(this.items[OLD][inOld])]
    return this.content(side, at, item) === this.content(OLD, inOld, old)
  }

  /** What names an item, the same in all documents; undefined where nothing does. */
  name(side: Side, at: number): string | undefined {
    return this.names[side][at]
  }

  /** The same where it tells the item: several of one name in a document are a sequence among themselves. */
  id(side: Side, at: number): string | undefined {
    const name = this.names[side][at]
    return name === undefined || this.shared.has(name) ? undefined : name
  }

  /** Among which items one that has no id is looked for. */
  group(side: Side, at: number): string {
    return this.names[side][at] ?? this.groupOf(side, at)
  }

  /** Among which others an item is rare: those of its name, or of its kind where the name is what tells it. */
  pool(item: Item): string {
    const { kind } = item
    const group = groupOf(item)
    const isByName = isRepeatable(kind) && this.means(group).by === 'name'
    return kind === Kind.Member || isByName ? `${kind}` : group
  }

  /** Whether its name is all that tells an item. */
  isByName(side: Side, at: number): boolean {
    return this.id(side, at) !== undefined && this.meansOf(side, at).by === 'name'
  }

  /** Whether what an item is told by was meant to name it. */
  isStrong(side: Side, at: number): boolean {
    const means = this.meansOf(side, at)
    return this.id(side, at) !== undefined && (means.by !== 'identity' || means.isStrong)
  }

  private nameOf(side: Side, at: number, item: Item): string | undefined {
    const group = this.groupOf(side, at)
    const means = this.means(group)
    if (means.by !== 'identity') return means.by === 'name' ? group : undefined
    const identity = item.identity(means.identity)
    return identity === undefined ? undefined : `${group}\0${identity}`
  }

  private groupsIn(side: Side): string[] {
    const { isDocument } = this.scope
    return this.items[side].map((item) =>
      isDocument && ROOTS.has(item.kind) ? ROOT_GROUP : groupOf(item),
    )
  }

  /** How many items of each group the document with the most has. */
  private mostOfGroups(): Map<string, number> {
    const most = new Map<string, number>()
    for (const side of SIDES) {
      for (const [group, count] of timesOf(this.groups[side]))
        most.set(group, Math.max(most.get(group) ?? 0, count))
    }
    return most
  }

  private choose(group: string, most: number): TellApartBy {
    if (group === ROOT_GROUP) return { by: 'name' }
    const kind = Number(group.slice(0, group.indexOf(':'))) as Kind // groupOf put it there
    const { identities, place } = this.scope
    switch (kind) {
      case Kind.Element:
        return this.chooseForElements(group, most)
      case Kind.Object:
      case Kind.Array: {
        return toldBy(identities.itemsOf(place, kind))
      }
      case Kind.Scalar:
      case Kind.Text:
        return { by: 'sequence' }
      case Kind.Section:
        return this.chooseForSections(group, most)
      default:
        return { by: 'name' }
    }
  }

  /** Where siblings of this name stand anywhere at this place, a lone one is told by its identity, too. */
  private chooseForElements(group: string, most: number): TellApartBy {
    const { identities, place } = this.scope
    const name = group.slice(group.indexOf(':') + 1)
    if (!identities.isConfigured(place, name) && this.areAllPlain(group))
      return most === 1 ? { by: 'name' } : { by: 'sequence' }
    const told = toldBy(identities.namedOf(place, name))
    if (told.by === 'identity' || most > 1) return told
    return this.nameOfLoneOnes(group) ?? { by: 'name' }
  }

  /** Several of one name are told by their identity, or by nothing of their own; a lone one is told by its name. */
  private chooseForSections(group: string, most: number): TellApartBy {
    const { identities, place } = this.scope
    const name = group.slice(group.indexOf(':') + 1)
    if (most === 1 && !identities.isConfigured(place, name)) return { by: 'name' }
    return toldBy(identities.namedOf(place, name))
  }

  private areAllPlain(group: string): boolean {
    return SIDES.every((side) =>
      this.items[side].every((item, at) => this.groups[side][at] !== group || item.isPlain),
    )
  }

  /**
   * Where each document has one element of a name, a customary name inside tells whether that is one entry: an
   * id always does. Any other may be a setting like the rest, so that it tells only where new and mine brought
   * the element, or where nothing else in it is the same, and not where both gave it another. Where they gave it
   * different ones the name is a question, an id too: else both elements would stand.
   */
  private nameOfLoneOnes(group: string): TellApartBy | undefined {
    const lone = triple((side) => this.items[side].find((_, at) => this.groups[side][at] === group))
    const there = lone.filter((item) => item !== undefined)
    const [first, ...others] = there.map(({ value }) => wordsIn(value))
    if (first === undefined || others.length === 0) return undefined
    const [step] = [...first.keys()]
      .filter((each) => isCustomary(each) && others.every((other) => other.has(each)))
      .sort((a, b) => customaryRank(a) - customaryRank(b))
    // where it is the same it need not be told
    if (step === undefined || others.every((other) => other.get(step) === first.get(step)))
      return undefined
    // what numbers an element tells it
    if (!isId(step) && this.isOneOfNumbered(group)) return undefined
    const [ofNew, ofMine] = others.map((other) => other.get(step))
    const isReplaced = ofMine !== undefined && ![ofMine, ofNew].includes(first.get(step))
    if (isReplaced && (ofNew !== ofMine || !isId(step))) return undefined
    const isNew = lone[OLD] === undefined
    const isOther = others.some((other) => areOthers(first, other))
    if (!isNew && !isId(step) && !isOther) return undefined
    return { by: 'identity', identity: parseIdentity(step), isStrong: true }
  }

  /** Whether a name ends in a number, and others that begin like it do, too. */
  private isOneOfNumbered(group: string): boolean {
    const stem = stemOf(group)
    const hasStem = (other: string): boolean => other !== group && stemOf(other) === stem
    return stem !== undefined && this.groups.some((groups) => groups.some(hasStem))
  }
}

/** By the identity of their place, or by nothing of their own. */
function toldBy({ inferred, counter }: Inference): TellApartBy {
  return inferred === undefined
    ? { by: 'sequence', counter }
    : { by: 'identity', ...inferred, counter }
}

/** Whether two entries have texts beside their names, and none in common. */
function areOthers(one: ReadonlyMap<string, string>, other: ReadonlyMap<string, string>): boolean {
  return one.size > 1 && [...one].every(([step, text]) => other.get(step) !== text)
}

function sharedIn(names: Triple<readonly (string | undefined)[]>): Set<string> {
  const shared = new Set<string>()
  for (const ofSide of names) {
    const seen = new Set<string>()
    for (const name of ofSide) {
      if (name === undefined) continue
      if (seen.has(name)) shared.add(name)
      seen.add(name)
    }
  }
  return shared
}
