import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import type { Identities } from './identities.ts'
import type { EntryIndex } from './finder.ts'
import { linkEqual, sameName } from './links.ts'
import type { Side, Triple } from '../document/sides.ts'
import { OLD, SIDES, triple } from '../document/sides.ts'

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

/** What the units of one container are told apart among, and by what. */
export class Keying {
  readonly means = new Map<string, Means>()
  readonly groups: [string[], string[], string[]]
  /** For each group of old whose entries all have an identity of their own: where each stands. */
  readonly indexes = new Map<string, EntryIndex>()
  /** For each unit of new and mine the unit of old with the same text, or -1: what holds for the one holds for the other. */
  private readonly links: Triple<Int32Array | undefined>
  private readonly words: Triple<boolean>
  private readonly tuples: [number[]?, number[]?, number[]?] = []
  /** Whether names that differ by capitals alone are one, where no document has both. */
  private readonly foldCase: boolean
  private readonly apartByCase: ReadonlySet<string>

  constructor(
    readonly docs: Triple<Doc>,
    readonly lists: Triple<UnitList | undefined>,
    private readonly scope: Scope,
  ) {
    this.foldCase = docs.some((doc) => doc.format.foldsCase)
    this.apartByCase = this.foldCase ? this.findApart() : new Set()
    this.links = triple((side) => this.linksOf(side))
    this.words = triple((side) => this.findWords(side))
    this.groups = [[], [], []]
    for (const side of SIDES) this.groups[side] = this.groupsOf(side)
    this.choose()
  }

  /** Which of a tuple's values a unit is, from 0. */
  placeInTuple(side: Side, unit: number): number {
    const places = (this.tuples[side] ??= this.tuplePlaces(side))
    return places[unit] ?? 0
  }

  private tuplePlaces(side: Side): number[] {
    let next = 0
    return this.groups[side].map((group) => (this.means.get(group)?.by === 'index' ? next++ : -1))
  }

  /** Whether a unit is a comment or a text: it is looked for where it stands. */
  isWords(side: Side, unit: number): boolean {
    if (!this.words[side]) return false
    const kind = this.docs[side].kind(this.lists[side]?.node[unit] ?? 0)
    return kind === Kind.Comment || kind === Kind.Text
  }

  /** Whether any unit of a document is a comment or a text. */
  hasWords(side: Side): boolean {
    return this.words[side]
  }

  private findWords(side: Side): boolean {
    const list = this.lists[side]
    for (const node of list?.node ?? []) {
      const kind = this.docs[side].kind(node)
      if (kind === Kind.Comment || kind === Kind.Text) return true
    }
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
    const nodes = this.lists[side]?.node ?? []
    for (let unit = 0; unit < nodes.length; unit++) {
      const linked = this.linked(side, unit)
      const node = nodes[unit] ?? 0
      if (linked >= 0) groups.push(this.groups[OLD][linked] ?? '')
      else if (unit > 0 && haveOneName(doc, nodes[unit - 1] ?? 0, node))
        groups.push(groups[unit - 1] ?? '')
      else groups.push(this.groupAt(doc, node))
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
        return this.meansForItems(group, kind, most)
      case Kind.Scalar:
        return this.isTuple() ? { by: 'index' } : { by: 'value' }
      case Kind.Array:
        return this.meansForItems(group, kind, most)
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
    const plain = this.every(group, (doc, node) => doc.isChildless(node))
    if (plain && !identities.isConfigured(place, name))
      return most === 1 ? { by: 'single' } : { by: 'value' }
    const identity = identities.ofElements(place, name)
    this.takeIndex(group, identities.indexOfElements(place, name))
    return identified(identity, most)
  }

  private meansForItems(group: string, kind: Kind.Object | Kind.Array, most: number): Means {
    const { identities, place } = this.scope
    const identity = identities.ofItems(place, kind)
    this.takeIndex(group, identities.indexOfItems(place))
    return identified(identity, most)
  }

  /** Takes an index that was made when the identity was inferred, where it is of this container in old. */
  private takeIndex(group: string, index: EntryIndex | undefined): void {
    if (index === undefined || index.doc !== this.docs[OLD]) return
    const nodes = this.lists[OLD]?.node ?? []
    const first = this.groups[OLD].indexOf(group)
    const last = this.groups[OLD].lastIndexOf(group)
    const isThis = index.nodes[0] === nodes[first] && index.nodes.at(-1) === nodes[last]
    if (first >= 0 && isThis) this.indexes.set(group, index)
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
}

/** Whether two nodes of one document are told apart among the same. */
function haveOneName(doc: Doc, a: number, b: number): boolean {
  const kind = doc.kind(a)
  if (kind !== doc.kind(b)) return false
  return kind === Kind.Element || kind === Kind.Member ? sameName(doc.tree, a, doc.tree, b) : false
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

/** The sort of an item of an array: its JSON type, one for all that is in quotes. */
function sortOfItem(doc: Doc, node: number): string {
  const kind = doc.kind(node)
  if (kind !== Kind.Scalar) return `${kind}`
  const first = doc.tree.source.charAt(doc.tree.start[node] ?? 0)
  if (/[-+.0-9]/.test(first)) return 'number'
  return first === '"' || first === "'" ? 'string' : 'word'
}
