import { timesOf } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { Replaced } from '../document/splice.ts'
import { surely } from '../document/surely.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import { identityText } from '../identity/expression.ts'
import type { Identities } from '../identity/identities.ts'
import { sharedValues } from '../likeness/shared-values.ts'
import type { Value } from '../likeness/value.ts'
import { contentOf, NodeItem } from './item.ts'
import type { Matching } from './matching.ts'
import { LEAST_PARTS, ownId } from './placer.ts'

/*
 * A side may put a new container around the entries of a list: an element around elements, an object around an array.
 * Then what the others have in that list belongs into the new container, what they added to it, too.
 */

/** A new container around what a list held, and what puts it around the same in the documents that lack it. */
export interface WrappedList {
  by: 'vanilla' | 'mine' | 'both'
  /** What is to be replaced in each document, so that it has the container. */
  replaced: Triple<readonly Replaced[]>
}

/**
 * So many entries of old stand in the new container, at least, and more than half of all; one is enough where it holds
 * too much to be the same by chance.
 */
const LEAST_FOUND = 2

/** Who may have put a container around entries, in the order in which it is looked for. */
const WRAPPING: readonly (readonly [WrappedList['by'], readonly Side[]])[] = [
  ['both', [NEW, MINE]],
  ['vanilla', [NEW]],
  ['mine', [MINE]],
]

/** The same of values without a name of their own, which are equal by chance sooner. */
const LEAST_PLAIN = 3

/** Entries that share so many values which few others have may be one. */
const LEAST_SHARED = 2

/** What tells the entries of a list. */
export interface ListScope {
  docs: Triple<Doc>
  identities: Identities
  /** The place of the list. */
  place: string
}

/** The new element, or member, that a side put around those of a list, and its class; undefined where there is none. */
export function wrappedList(
  scope: ListScope,
  matching: Matching,
): (WrappedList & { cls: number }) | undefined {
  for (const [by, wrapping] of WRAPPING) {
    const found = new WrappedUnits(scope, matching, wrapping).find(by)
    if (found !== undefined) return found
  }
  return undefined
}

/** The object that a side put around an array, and the name of the member that the array is. */
export function wrappedArray(
  scope: ListScope,
  nodes: Triple<number>,
): (WrappedList & { name: string }) | undefined {
  const { docs } = scope
  const isArray = triple((side) => docs[side].kind(nodes[side]) === Kind.Array)
  const around = WRAPPING.find(([, wrapping]) =>
    SIDES.every((side) =>
      wrapping.includes(side) ? docs[side].kind(nodes[side]) === Kind.Object : isArray[side],
    ),
  )
  if (around === undefined) return undefined
  const [by, wrapping] = around
  const first = surely(wrapping[0])
  const old = docs[OLD].children(nodes[OLD])
  const candidates = membersOf(docs[first], nodes[first], Kind.Array)
  const wrapper = onlyHolder(scope, old, [first, candidates])
  if (wrapper === undefined) return undefined
  const name = docs[first].name(wrapper)
  const isIn = (side: Side): boolean =>
    membersOf(docs[side], nodes[side], Kind.Array).some((each) => docs[side].name(each) === name)
  if (!wrapping.every(isIn)) return undefined
  const { tree } = docs[first]
  const head = tree.source.slice(tree.start(wrapper), tree.start(docs[first].memberValue(wrapper)))
  const replaced = triple((side): Replaced[] => {
    if (wrapping.includes(side)) return []
    const own = docs[side].tree
    const [start, end] = [own.start(nodes[side]), own.end(nodes[side])]
    return [
      { start, end: start, text: `{${head}` },
      { start: end, end, text: '}' },
    ]
  })
  return { by, name, replaced }
}

function membersOf(doc: Doc, object: number, kind: Kind): number[] {
  return doc
    .children(object)
    .filter((each) => doc.kind(each) === Kind.Member && doc.kind(doc.memberValue(each)) === kind)
}

/** Units of a list, the first and the last. */
interface Stretch {
  first: number
  last: number
}

/** The entries that some sides have no more directly in a list, and what they have around them. */
class WrappedUnits {
  private readonly docs: Triple<Doc>

  constructor(
    private readonly scope: ListScope,
    private readonly matching: Matching,
    private readonly wrapping: readonly Side[],
  ) {
    this.docs = scope.docs
  }

  find(by: WrappedList['by']): (WrappedList & { cls: number }) | undefined {
    const { matching, docs, scope } = this
    const side = surely(this.wrapping[0])
    const gone: number[] = []
    const holders: number[] = []
    for (let cls = 0; cls < matching.length; cls++) {
      if (this.isGone(cls)) gone.push(matching.node(OLD, cls))
      else if (this.isNewHolder(cls)) holders.push(cls)
    }
    const node = onlyHolder(scope, gone, [side, holders.map((cls) => matching.node(side, cls))])
    const holder = holders.find((cls) => matching.node(side, cls) === node)
    if (node === undefined || holder === undefined) return undefined
    const [open, close] = tagsOf(docs[side], node)
    const replaced: Replaced[][] = []
    for (const each of SIDES) {
      const stretch = this.wrapping.includes(each) ? 'none' : this.stretch(each)
      if (stretch === undefined) return undefined
      const list = surely(matching.lists[each])
      replaced.push(stretch === 'none' ? [] : around(list, stretch, open, close))
    }
    return {
      by,
      cls: holder,
      replaced: [surely(replaced[OLD]), surely(replaced[NEW]), surely(replaced[MINE])],
    }
  }

  /** Whether a wrapping side has what a class is of. */
  private stays(cls: number): boolean {
    return this.wrapping.some((side) => this.matching.unit(side, cls) >= 0)
  }

  private isGone(cls: number): boolean {
    const unit = this.matching.unit(OLD, cls)
    return unit >= 0 && !this.matching.isWords(OLD, unit) && !this.stays(cls)
  }

  private isNewHolder(cls: number): boolean {
    const { matching, docs } = this
    return SIDES.every((side) => {
      const unit = matching.unit(side, cls)
      if (!this.wrapping.includes(side)) return unit < 0
      return (
        unit >= 0 && !matching.isWords(side, unit) && isHolder(docs[side], matching.node(side, cls))
      )
    })
  }

  /**
   * The units of a side that lacks the container from the first to the last of which the others have none, where
   * none of theirs stands between; what the side itself added around them stands there, too.
   */
  private stretch(side: Side): Stretch | undefined {
    const { matching } = this
    const classes = matching.classOf[side]
    const gone = [...classes.keys()].filter((unit) => this.isGone(surely(classes[unit])))
    if (gone.length === 0) return undefined
    let [first, last] = [surely(gone[0]), surely(gone.at(-1))]
    const isFree = (unit: number): boolean => {
      const cls = classes[unit]
      return cls !== undefined && !this.stays(cls)
    }
    while (isFree(first - 1)) first--
    while (isFree(last + 1)) last++
    for (let unit = first; unit <= last; unit++) if (!isFree(unit)) return undefined
    return { first, last }
  }
}

/** Whether a node holds entries that may have stood beside it: an element with elements, a member that is an object. */
function isHolder(doc: Doc, node: number): boolean {
  const kind = doc.kind(node)
  if (kind === Kind.Member) return doc.kind(doc.memberValue(node)) === Kind.Object
  return kind === Kind.Element && !doc.isLeafElement(node)
}

/** What stands before and behind what a holder holds. */
function tagsOf(doc: Doc, node: number): [open: string, close: string] {
  const { tree } = doc
  const held = doc.kind(node) === Kind.Member ? doc.memberValue(node) : node
  return [
    tree.source.slice(tree.start(node), tree.bodyStart(held)),
    tree.source.slice(tree.bodyEnd(held), tree.end(held)),
  ]
}

/**
 * Tags around units, each on a line of its own where units begin lines: what ends a line may be a comment. A separator
 * behind the last unit goes behind the closing tag.
 */
function around(list: UnitList, { first, last }: Stretch, open: string, close: string): Replaced[] {
  const [start, end] = [list.start(first), list.end(last)]
  const separator = list.separator(last)
  const put = (offset: number, text: string): Replaced => {
    const lineEnd = lineEndBefore(list.tree.source, offset)
    const indent = lineEnd === '' ? '' : list.indent(first)
    return { start: offset, end: offset, text: indent + text + lineEnd }
  }
  if (separator < 0) return [put(start, open), put(end, close)]
  const mark = list.tree.source.charAt(separator)
  return [
    put(start, open),
    { start: separator, end: separator + 1, text: '' },
    put(end, close + mark),
  ]
}

/** The line end directly before an offset, or ''. */
function lineEndBefore(source: string, offset: number): string {
  return /(?:\r\n|\r|\n)$/.exec(source.slice(Math.max(0, offset - 2), offset))?.[0] ?? ''
}

function isPlainValue(doc: Doc, node: number): boolean {
  const kind = doc.kind(node)
  return kind === Kind.Scalar || (kind === Kind.Element && doc.isChildless(node))
}

/** Of what may hold entries now the one that holds more than half of them; none where another holds some, too. */
function onlyHolder(
  { docs, identities, place }: ListScope,
  old: readonly number[],
  [side, candidates]: readonly [Side, readonly number[]],
): number | undefined {
  let entries: EntriesOfOld | undefined
  const holding = candidates
    .map((node) => {
      entries ??= new EntriesOfOld(docs[OLD], identities, place, old)
      return { node, ...entries.foundIn(docs[side], node) }
    })
    .filter(({ found }) => found > 0)
  const [only, ...others] = holding
  if (only === undefined || others.length > 0) return undefined
  const isPlain = old.every((node) => isPlainValue(docs[OLD], node))
  const isEnough = only.found >= (isPlain ? LEAST_PLAIN : LEAST_FOUND) || only.isTelling
  return isEnough && only.found * 2 > old.length ? only.node : undefined
}

/** The entries that a list had, by what they are known again. */
class EntriesOfOld {
  private readonly values: readonly Value[]
  private readonly byValue: ReadonlyMap<number, number>
  private readonly byName: ReadonlyMap<string, number>

  constructor(
    old: Doc,
    private readonly identities: Identities,
    private readonly place: string,
    nodes: readonly number[],
  ) {
    this.values = nodes.map((node) => this.valueOf(old, node))
    this.byValue = timesOf(this.values.map(({ id }) => id))
    const names = nodes.map((node) => this.nameOf(old, node)).filter((name) => name !== undefined)
    // a name that several share is nobody's
    this.byName = new Map([...timesOf(names)].filter(([, times]) => times === 1))
  }

  /** How many of the entries stand in a container, and whether one is too much as it was to be the same by chance. */
  foundIn(doc: Doc, node: number): { found: number; isTelling: boolean } {
    const left = new Map(this.byValue)
    const named = new Map(this.byName)
    const held = doc.kind(node) === Kind.Member ? doc.memberValue(node) : node
    let found = 0
    let isTelling = false
    for (const child of doc.children(held)) {
      const value = this.valueOf(doc, child)
      const name = this.nameOf(doc, child)
      const isSame = take(left, value.id)
      const isNamed = name !== undefined && take(named, name)
      if (isSame || isNamed) found++
      const isMuch = isSame && (isNamed || value.parts.length >= LEAST_PARTS)
      if (isMuch || (isNamed && this.idOf(doc, child) !== undefined)) isTelling = true
    }
    return { found: Math.max(found, this.likeIn(doc, held)), isTelling }
  }

  /** How many of the entries share values that few have with what a container holds. */
  private likeIn(doc: Doc, held: number): number {
    const { features } = this.identities.known
    const pairs = sharedValues(
      this.values.map((value) => features.of(value)),
      doc.children(held).map((child) => features.of(this.valueOf(doc, child))),
      LEAST_SHARED,
    )
    return new Set(pairs.map(({ one }) => one)).size
  }

  /** What an entry is known by as it was: of what holds entries itself its name may be another. */
  private valueOf(doc: Doc, node: number): Value {
    const { known } = this.identities
    if (!isHolder(doc, node)) return known.values.of(doc, node)
    return contentOf(new NodeItem(doc, node, known), known.values)
  }

  /** What names an entry beyond chance: its identity, or the name of what holds entries itself. */
  private nameOf(doc: Doc, node: number): string | undefined {
    const name = doc.foldedName(node)
    const id = this.idOf(doc, node)
    if (id !== undefined) return `${name} ${id}`
    return isHolder(doc, node) ? name : undefined
  }

  private idOf(doc: Doc, node: number): string | undefined {
    const { identities, place } = this
    const kind = doc.kind(node)
    const chosen =
      kind === Kind.Element
        ? identities.ofNamed(place, doc.foldedName(node))
        : kind === Kind.Object || kind === Kind.Array
          ? identities.ofItems(place, kind)
          : undefined
    return chosen === undefined ? ownId(doc, node) : identityText(doc, node, chosen.identity)
  }
}

/** Takes one of what is counted; gives whether there was one. */
function take<T>(counted: Map<T, number>, key: T): boolean {
  const count = counted.get(key) ?? 0
  if (count > 0) counted.set(key, count - 1)
  return count > 0
}
