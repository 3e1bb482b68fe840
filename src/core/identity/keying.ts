import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import { nodeOf } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import type { Identities } from './identities.ts'
import { sameName } from '../document/same-text.ts'
import type { Side, Triple } from '../document/sides.ts'
import { SIDES, triple } from '../document/sides.ts'

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
/** A run is the only one of its group: it is in all documents. */
const RUN_GROUP = 'run'

/** By an identity where there is one; what is alone of its kind in every document is that one anyway. */
function identified(identity: IdentityExpression | undefined, most: number): Means {
  if (identity !== undefined) return { by: 'identity', identity }
  return most === 1 ? { by: 'single' } : { by: 'likeness' }
}

/** What the units of one container are told apart among, and by what. */
export class Keying {
  readonly means = new Map<string, Means>()
  readonly groups: [string[], string[], string[]]
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
    this.words = triple((side) => this.findWords(side))
    this.groups = [[], [], []]
    for (const side of SIDES) this.groups[side] = this.groupsOf(side)
    this.choose()
  }

  /** Which of a tuple's values a unit is, from 0. */
  placeInTuple(side: Side, unit: number): number {
    const places = (this.tuples[side] ??= this.tuplePlaces(side))
    return places[unit] ?? -1
  }

  private tuplePlaces(side: Side): number[] {
    let next = 0
    return this.groups[side].map((group) => (this.means.get(group)?.by === 'index' ? next++ : -1))
  }

  /** Whether a unit is a comment or a text: it is looked for where it stands. */
  isWords(side: Side, unit: number): boolean {
    if (!this.words[side]) return false
    const kind = this.docs[side].kind(nodeOf(this.lists[side], unit))
    return kind === Kind.Comment || kind === Kind.Text
  }

  /** Whether any unit of a document is a comment or a text. */
  hasWords(side: Side): boolean {
    return this.words[side]
  }

  private findWords(side: Side): boolean {
    const list = this.lists[side]
    for (const node of list?.nodes ?? []) {
      const kind = this.docs[side].kind(node)
      if (kind === Kind.Comment || kind === Kind.Text) return true
    }
    return false
  }

  /** Names, in small letters, that one document has in two spellings: there capitals tell apart. */
  private findApart(): Set<string> {
    const apart = new Set<string>()
    for (const side of SIDES) {
      const spelled = new Map<string, string>()
      for (const node of this.lists[side]?.nodes ?? []) {
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
    let previous = -1
    for (const [unit, node] of (this.lists[side]?.nodes ?? []).entries()) {
      const run = this.lists[side]?.runOf(unit)
      if (run !== undefined) groups.push(`${RUN_GROUP}${run.id}`)
      else if (previous >= 0 && haveOneName(doc, previous, node))
        groups.push(groups[unit - 1] ?? '')
      else groups.push(this.groupAt(doc, node))
      previous = run === undefined ? node : -1
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
    if (group === ROOT_GROUP || group.startsWith(RUN_GROUP)) return { by: 'single' }
    const kind = Number(group.slice(0, group.indexOf(':'))) as Kind // groupOf put it there
    switch (kind) {
      case Kind.Element:
        return this.meansForElements(group, most)
      case Kind.Object:
        return this.meansForItems(kind, most)
      case Kind.Scalar:
        return this.isTuple() ? { by: 'index' } : { by: 'value' }
      case Kind.Array:
        return this.meansForItems(kind, most)
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
    return identified(identity, most)
  }

  private meansForItems(kind: Kind.Object | Kind.Array, most: number): Means {
    const { identities, place } = this.scope
    const identity = identities.ofItems(place, kind)
    return identified(identity, most)
  }

  /**
   * Arrays of one length in all documents that hold numbers alone (a point, a range, a colour) or values
   * of several types (a call with its arguments): the place of a value tells it apart.
   */
  private isTuple(): boolean {
    const sorts = SIDES.flatMap((side) => {
      const list = this.lists[side]
      if (list === undefined) return []
      const items = list.nodes.filter((_, unit) => !list.isComment(unit))
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
      (this.lists[side]?.nodes ?? []).every(
        (node, unit) => this.groups[side][unit] !== group || holds(this.docs[side], node),
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

/** The sort of an item of an array: words (true, false, null) are one sort. */
function sortOfItem(doc: Doc, node: number): string {
  if (doc.kind(node) !== Kind.Scalar) return `${doc.kind(node)}`
  const sort = doc.scalarSort(node)
  return sort === 'boolean' || sort === 'null' ? 'word' : (sort ?? 'string')
}
