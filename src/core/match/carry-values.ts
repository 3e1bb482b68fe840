import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { placeOf } from '../identity/place.ts'
import type { Identities } from '../identity/identities.ts'
import type { Value } from '../likeness/value.ts'
import { heldBy } from './already-carried.ts'
import { ValueItem } from './item.ts'
import type { ContentShape } from './content-shape.ts'
import { shapeOfBoth } from './content-shape.ts'
import type { Links } from './links.ts'
import type { ListMatch, Reading } from './match-list.ts'
import { isLooseClass, isNamelessClass, matchList, plainReading } from './match-list.ts'
import type { Classes } from './order.ts'
import { movesOf, resultOrder } from './order.ts'
import { joined } from './stretches.ts'
import type { Items, Scope } from './tell-apart.ts'
import { scopeOf } from './tell-apart.ts'

/** What a carry gives, form and comments aside. */
export interface Carried {
  value: Value
  /** Whether something in it is a question; mine stands there. */
  isOpen: boolean
}

/** What becomes of what an element holds beside its attributes. */
interface Content {
  text?: string | undefined
  parts: readonly Value[]
  isOpen: boolean
}

/** What becomes of a list. */
interface ListResult {
  parts: readonly Value[]
  isOpen: boolean
  /** Whether the whole list is one question. */
  isQuestion: boolean
}

/** A value in each document; undefined where there is none. */
type ThreeValues = Triple<Value | undefined>

/** An element that new and mine have. */
type ElementValues = readonly [old: Value | undefined, fresh: Value, mine: Value]

/**
 * The three-way merge of values alone, without form: what a carry would give. It proves a list by doing the
 * carry again. Where its result, carried once more, would be another one, the list is one question.
 */
export class ValueCarry {
  private readonly known = new Map<string, Carried>()

  constructor(private readonly identities: Identities) {}

  /**
   * Matches a list, and says whether it is one question.
   *
   * @param siblings all that stands in the list, where some of its items stand for several that nobody touched;
   *   then it is not proven
   */
  decide(items: Items, scope: Scope, siblings?: () => Items): ListMatch {
    const match = matchList(items, scope, siblings)
    if (scope.isOrdered && !match.isOneSided && isReplacedByBoth(match))
      return { ...match, isQuestion: true }
    if (match.isQuestion || siblings !== undefined || !this.needsProof(match, scope)) return match
    return this.isProven(match, scope) ? match : asked(match)
  }

  /**
   * Whether a repeated carry could give something else: not where each entry is told by what it alone has and one
   * side at most re-ordered, or only one changed the list.
   */
  private needsProof({ links, isAllNamed, isOneSided }: ListMatch, { isOrdered }: Scope): boolean {
    if (isOneSided) return false
    return !isAllNamed || (isOrdered && links.isReordered(NEW) && links.isReordered(MINE))
  }

  private isProven(match: ListMatch, scope: Scope): boolean {
    const [old, fresh, mine] = match.told.items
    const forth = this.partsOf(match, scope)
    const back = this.partsOf(matchList([old, mine, fresh], scope), scope)
    if (forth.isQuestion || back.isQuestion || forth.isOpen !== back.isOpen) return false
    const isSo =
      !hasEquals(match) ||
      (this.isSoInAnyWay([old, fresh, mine], scope, forth.parts) &&
        this.isSoInAnyWay([old, mine, fresh], scope, back.parts))
    if (!isSo) return false
    const again = (side: Items[number], result: readonly Value[]): boolean => {
      const items: Items = [old, side, result.map((value) => new ValueItem(value))]
      // what is open may be asked again
      const reading = { ...plainReading(scope), isRepeated: !forth.isOpen }
      return areSame(this.partsOf(matchList(items, scope, undefined, reading), scope).parts, result)
    }
    // mostly both ways come to the same, and then half of this is known
    if (areSame(forth.parts, back.parts))
      return again(fresh, forth.parts) && again(mine, forth.parts)
    return (
      again(fresh, forth.parts) &&
      again(mine, back.parts) &&
      (forth.isOpen || (again(mine, forth.parts) && again(fresh, back.parts)))
    )
  }

  /**
   * Whether a list comes to the same when it is read in other ways: from the end, without what is fixed
   * beforehand, by other ones of several alignments that are as good. Of equal items several can be the ones that
   * stayed, and which are taken must make no difference.
   */
  private isSoInAnyWay(items: Items, scope: Scope, result: readonly Value[]): boolean {
    const { freeAligner, freeFromEnd } = scope.identities.known
    const fixed = plainReading(scope)
    const free = { ...fixed, aligner: freeAligner, isMovedFirst: true }
    const turned = triple((side) => items[side].toReversed())
    const read = (lists: Items, reading: Reading): readonly Value[] | undefined => {
      const match = matchList(lists, scope, undefined, reading)
      const { parts, isQuestion } = this.partsOf(match, scope)
      return isQuestion ? undefined : parts
    }
    const counted = inOneOrder(result)
    return (
      [fixed, free].every((reading) => {
        const parts = read(turned, reading)
        return parts !== undefined && areSame(inOneOrder(parts), counted)
      }) &&
      [free, { ...fixed, aligner: freeFromEnd }].every((reading) => {
        const parts = read(items, reading)
        return parts !== undefined && areSame(parts, result)
      })
    )
  }

  /** What a carry gives for an entry that new and mine have. */
  private carry(values: ThreeValues, place: string): Carried {
    const [old, fresh, mine] = values
    const picked = fresh === mine || fresh === old ? mine : mine === old ? fresh : undefined
    if (picked !== undefined) return { value: picked, isOpen: false }
    if (fresh === undefined || mine === undefined)
      throw new Error('an entry that only one side has')
    const key = `${values.map((value) => value?.id).join()} ${place}`
    const known = this.known.get(key)
    if (known !== undefined) return known
    const carried = this.inside(old, fresh, mine, place)
    this.known.set(key, carried)
    return carried
  }

  private inside(old: Value | undefined, fresh: Value, mine: Value, place: string): Carried {
    const conflict: Carried = { value: mine, isOpen: true }
    if (fresh.kind !== mine.kind) return conflict
    // a list of plain values in the place of something else is one value
    if (old !== undefined && old.kind !== mine.kind)
      if ([fresh, mine].some(({ parts }) => parts.some(({ kind }) => kind === Kind.Scalar)))
        return conflict
    if (mine.kind !== Kind.Element && mine.text !== undefined) return conflict
    const base = old?.kind === mine.kind ? old : undefined
    const name = fresh.name === mine.name || base?.name !== mine.name ? mine.name : fresh.name
    const at = insideOf(mine, place)
    const { values } = this.identities.known
    if (mine.kind === Kind.Member) {
      // what a member holds is one value, whatever kind of value it is
      const held = this.carry([base?.parts[0], fresh.parts[0], mine.parts[0]], at)
      return { ...held, value: values.holding({ kind: mine.kind, name }, [held.value]) }
    }
    const scope = scopeOf(mine.kind, at, false, this.identities)
    const three: ElementValues = [base, fresh, mine]
    const attributes = this.list(heldIn(three, true), scope)
    const content: Content =
      mine.kind === Kind.Element
        ? this.content(three, scope)
        : this.list(heldIn(three, false), scope)
    const parts = [...attributes.parts, ...content.parts]
    return {
      value: values.holding({ kind: mine.kind, name, text: content.text }, parts),
      isOpen: attributes.isOpen || content.isOpen,
    }
  }

  /** What an element holds beside its attributes: a text, if an empty one, or elements. */
  private content(three: ElementValues, scope: Scope): Content {
    const [old, fresh, mine] = three
    const [was, now, own] = triple((side) => shapeOf(three[side]))
    const lists = heldIn(three, false)
    const ofMine: Content = { text: mine.text, parts: lists[MINE], isOpen: true }
    const both = shapeOfBoth(was, now, own)
    if (both === 'clash') return ofMine
    if (both === 'branch') {
      const { parts, isOpen } = this.list(lists, scope)
      return { text: parts.length === 0 ? '' : undefined, parts, isOpen }
    }
    if (fresh.text !== mine.text && fresh.text !== old?.text && mine.text !== old?.text)
      return ofMine
    return { text: fresh.text === old?.text ? mine.text : fresh.text, parts: [], isOpen: false }
  }

  private list(lists: Triple<readonly Value[]>, scope: Scope): ListResult {
    const items: Items = triple((side) => lists[side].map((value) => new ValueItem(value)))
    return this.partsOf(this.decide(items, scope), scope)
  }

  /** What the result of a list holds. */
  private partsOf(match: ListMatch, scope: Scope): ListResult {
    const { holding, told } = match
    const valuesOf = (side: Side): Value[] => told.items[side].map(({ value }) => value)
    if (match.isQuestion) return { parts: valuesOf(MINE), isOpen: true, isQuestion: true }
    if (holding === 'both') return this.askedParts(match, scope)
    const merged = this.mergedParts(match, scope)
    // what is open is asked anyhow
    const isTied = holding?.isSure === false && !merged.isOpen
    if (isTied && !areSame(merged.parts, valuesOf(holding.side)))
      return this.askedParts(match, scope)
    return { ...merged, isQuestion: false }
  }

  /** What the result of a list holds that is not proven. */
  private askedParts(match: ListMatch, scope: Scope): ListResult {
    const { parts } = this.partsOf(asked(match), scope)
    return { parts, isOpen: true, isQuestion: true }
  }

  private mergedParts(match: ListMatch, scope: Scope): Omit<ListResult, 'isQuestion'> {
    const { told, links, stretches, holding } = match
    const { items } = told
    const classes = classesOf(links)
    const asked = new Set(stretches.flatMap((stretch) => [...stretch]))
    const held = heldBy(holding)
    let isOpen = stretches.length > 0
    const result = new Map<number, Value>()
    for (const cls of classes.all) {
      const values = triple((side) => items[side][links.member(side, cls)]?.value)
      const entry =
        held !== undefined && isLooseClass(match, cls)
          ? { value: values[held], isOpen: false }
          : asked.has(cls)
            ? { value: values[MINE], isOpen: true }
            : this.entry(match, cls, scope.place)
      if (entry.isOpen) isOpen = true
      if (entry.value !== undefined) result.set(cls, entry.value)
    }
    const order = resultOrder(classes, movesOf(classes), (cls) => result.has(cls))
    return { parts: order.classes.map((cls) => surely(result.get(cls))), isOpen }
  }

  private entry(
    { told, links }: ListMatch,
    cls: number,
    place: string,
  ): { value: Value | undefined; isOpen: boolean } {
    const members = triple((side) => links.member(side, cls))
    const values = triple((side) => told.items[side][members[side]]?.value)
    const [old, fresh, mine] = values
    if (fresh !== undefined && mine !== undefined) return this.carry(values, place)
    if (old === undefined) return { value: fresh ?? mine, isOpen: false }
    const side = fresh === undefined ? MINE : NEW
    const left = fresh ?? mine
    if (left === undefined || left === old || told.isRenumbered(side, members[side], members[OLD]))
      return { value: undefined, isOpen: false }
    return { value: mine, isOpen: true }
  }
}

/** Whether a list holds items that are equal, so that nothing tells which of them stayed. */
function hasEquals({ told }: ListMatch): boolean {
  return SIDES.some((side) => {
    const items = told.items[side]
    const seen = new Set(items.map((item, at) => told.id(side, at) ?? item.value.id))
    return seen.size < items.length
  })
}

/** With fewer entries in old two sides may well have replaced all of them, each by its own. */
const LEAST_REPLACED = 3

/**
 * Whether new and mine both have none of old's entries and others instead, about as many: then both gave them other
 * names, most likely, and all would stand twice.
 */
function isReplacedByBoth({ told, links, stretches }: ListMatch): boolean {
  const { items } = told
  const count = items[OLD].length
  if (count < LEAST_REPLACED || stretches.length > 0) return false
  if (items[NEW].length * 2 < count || items[MINE].length * 2 < count) return false
  return classesOf(links).all.every((cls) => links.member(OLD, cls) < 0 || links.isInOldAlone(cls))
}

/**
 * A list that is not proven: where other entries have names, and one side at most re-ordered them, the
 * question is of those that have none; else it is of the list.
 */
function asked(match: ListMatch): ListMatch {
  const { links } = match
  const { all } = classesOf(links)
  const nameless = all.filter((cls) => isNamelessClass(match, cls))
  const isOfNamed = links.isReordered(NEW) && links.isReordered(MINE)
  if (isOfNamed || nameless.length === 0 || nameless.length === all.length)
    return { ...match, isQuestion: true }
  return { ...match, stretches: joined([...match.stretches, nameless]), holding: undefined }
}

/** Attributes of each, or what else it holds. */
function heldIn(values: ThreeValues, isAttribute: boolean): Triple<readonly Value[]> {
  return triple((side) =>
    (values[side]?.parts ?? []).filter(({ kind }) => (kind === Kind.Attribute) === isAttribute),
  )
}

function shapeOf(element: Value | undefined): ContentShape | undefined {
  if (element === undefined) return undefined
  return element.text === undefined ? 'branch' : element.text === '' ? 'empty' : 'text'
}

/** The place of what a value holds. */
function insideOf({ kind, name }: Value, place: string): string {
  return kind === Kind.Object || kind === Kind.Array ? place : placeOf(place, name)
}

function inOneOrder(values: readonly Value[]): Value[] {
  return [...values].sort((a, b) => a.id - b.id)
}

function areSame(a: readonly Value[], b: readonly Value[]): boolean {
  return a.length === b.length && a.every((value, at) => value === b[at])
}

/** Classes as the order of a result is worked out from them. */
export function classesOf(links: Links): Classes & { all: readonly number[] } {
  const all: number[] = []
  for (let cls = 0; cls < links.length; cls++)
    if (SIDES.some((side) => links.member(side, cls) >= 0)) all.push(cls)
  return {
    all,
    classOf: triple((side) => {
      const classes: number[] = []
      for (let at = 0; at < links.count(side); at++) classes.push(links.classOf(side, at))
      return classes
    }),
    unit: (side, cls) => links.member(side, cls),
    isComment: () => false,
  }
}
