import { Kind } from '../document/kind.ts'
import type { Aligner } from '../likeness/align.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, PAIRS, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Holding } from './already-carried.ts'
import { alreadyCarried, heldBy } from './already-carried.ts'
import {
  areEqualButCounted,
  linkById,
  linkByOwnIds,
  linkEqual,
  linkEqualInBoth,
  linkMoved,
} from './equal.ts'
import { pairInGaps } from './gaps.ts'
import type { Changed, Links } from './links.ts'
import { otherSide } from './links.ts'
import { linkMovedAndChanged } from './moved.ts'
import { movedOrCopied } from './moved-or-copied.ts'
import type { Item } from './item.ts'
import type { Perhaps } from './renamed.ts'
import { linkRenamed } from './renamed.ts'
import { amidDropped, broughtInPart, sortsOfGroups } from './ordered-groups.ts'
import type { Stretch } from './stretches.ts'
import { broughtOrReplaced, stretchesOf } from './stretches.ts'
import { MatchState, unlinked } from './match-state.ts'
import type { Items, Scope } from './tell-apart.ts'
import { TellApart } from './tell-apart.ts'

/** Which entries of one list are one, and what of that cannot be known. */
export interface ListMatch {
  told: TellApart
  links: Links
  /** Stretches that are a question each: mine stands there. */
  stretches: readonly Stretch[]
  /** The side that has the other's changes already, where one has; `both` where that cannot be told. */
  holding: Holding
  /**
   * Whether the list is one question: it is a tuple that both changed, or an entry that both have would be two
   * of old's.
   */
  isQuestion: boolean
  /** Whether two of the lists are equal, so that one side at most changed it. */
  isOneSided: boolean
  /** Whether each item is told by what it alone has, and by nothing else. */
  isAllNamed: boolean
  /** What dropped entries may have become. */
  perhaps: Perhaps
}

/** Whether no strong identity tells the items of a class. */
export function isLooseClass(match: ListMatch, cls: number): boolean {
  return everyItem(match, cls, (side, at) => !match.told.isStrong(side, at))
}

/** Whether nothing of its own tells the items of a class. */
export function isNamelessClass(match: ListMatch, cls: number): boolean {
  return everyItem(match, cls, (side, at) => match.told.id(side, at) === undefined)
}

/** How a list with equal items is read, where it can be read in several ways. */
export interface Reading {
  aligner: Aligner
  /** Whether what moved is looked for before what both sides brought. */
  isMovedFirst: boolean
  /** Whether a side is the result of a carry, so that what both have is nothing to ask about. */
  isRepeated: boolean
}

/** How a list is read if nothing else is said. */
export function plainReading({ identities }: Scope): Reading {
  return { aligner: identities.known.aligner, isMovedFirst: false, isRepeated: false }
}

function everyItem(
  { links }: ListMatch,
  cls: number,
  holds: (side: Side, at: number) => boolean,
): boolean {
  return SIDES.every((side) => {
    const at = links.member(side, cls)
    return at < 0 || holds(side, at)
  })
}

/**
 * Matches the items of one list in the three documents: what is surest first, and what was linked stays so.
 *
 * 1. A tuple by index. Where two of the three lists are equal, item by item, they are one list.
 * 2. By identity.
 * 3. What is equal, in order: old with new and old with mine.
 * 4. What new and mine have equal and old has not.
 * 5. What has moved and is unchanged.
 * 6. In gaps: entries by likeness, plain ones by their order.
 * 7. What has moved and was changed; what both have under one id; what was renamed.
 * 8. Whether a side's list holds the other's changes already.
 * 9. Which stretches both sides rewrote, or may have.
 *
 * @param siblings all that stand in the lists, where some of it is not to be matched
 */
export function matchList(
  items: Items,
  scope: Scope,
  siblings?: () => Items,
  reading: Reading = plainReading(scope),
): ListMatch {
  const told = new TellApart(items, scope)
  const state = new MatchState(told, scope.identities.known, siblings, reading.aligner)
  const all = {
    told,
    stretches: [],
    holding: undefined,
    isQuestion: false,
    isOneSided: false,
    isAllNamed: false,
  }
  if (told.numberedAnew?.isSure === false && sameLists(items) === undefined) {
    linkByIds(state)
    return { ...all, links: state.links, perhaps: NOTHING, isQuestion: true }
  }
  if (isAllNamed(told)) {
    linkByIds(state)
    const perhaps = hasLostAndGained(state.links) ? linkRenamed(state, [NEW, MINE]) : NOTHING
    return { ...all, links: state.links, perhaps, isAllNamed: true }
  }
  const same = sameLists(items)
  const sort = indexedSort(items)
  if (sort !== undefined) {
    linkByIndex(state.links, items)
    const isQuestion = sort === 'tuple' && same === undefined
    const isOneSided = same !== undefined
    return { ...all, links: state.links, perhaps: NOTHING, isQuestion, isOneSided }
  }
  if (same !== undefined) return { ...all, ...matchTwo(state, same), isOneSided: true }
  if (isLongerInBoth(items))
    return { ...all, links: state.links, perhaps: NOTHING, isQuestion: true }
  return { ...all, ...matchThree(state, reading) }
}

const SIDES_CHANGED = [NEW, MINE] as const

/** Steps 2 to 9, where all three differ. */
function matchThree(
  state: MatchState,
  reading: Reading,
): Pick<ListMatch, 'links' | 'stretches' | 'holding' | 'isQuestion' | 'perhaps'> {
  const { told } = state
  const isClear = linkThree(state, reading)
  const groups = sortsOfGroups(told)
  // what only its place tells is something else elsewhere
  if (groups.size === 0) linkMovedAndChanged(state, SIDES_CHANGED)
  const ownIds = linkByOwnIds(state)
  const perhaps = linkRenamed(state, SIDES_CHANGED)
  // of what an id of its own tells it need not be guessed whether a side has it already
  const holding =
    ownIds === 'none'
      ? alreadyCarried(
          triple((side) => state.loose(side).tokens),
          state.aligner,
        )
      : undefined
  const held = heldBy(holding)
  if (held !== undefined) {
    const links = linksOfHeld(state, held)
    return { links, stretches: [], holding, isQuestion: false, perhaps }
  }
  const doubtful = reading.isRepeated
    ? []
    : [
        ...amidDropped(state.links, told, groups),
        ...broughtInPart(state.links, told, groups),
        ...movedOrCopied(state, SIDES_CHANGED),
        ...broughtOrReplaced(state.links, () => linksBroughtLast(state, reading)),
      ]
  const isVague = SIDES_CHANGED.some((side) => areEqualButCounted(state, side))
  return {
    links: state.links,
    stretches: stretchesOf(state.links, told, doubtful),
    holding,
    isQuestion: !isClear || ownIds === 'contradictory' || isVague,
    perhaps,
  }
}

/**
 * Steps 2 to 6.
 *
 * @param isBroughtLast whether what both sides brought is looked for behind what may stand for an entry of old
 * @returns whether nothing was contradictory
 */
function linkThree(
  state: MatchState,
  { isMovedFirst }: Pick<Reading, 'isMovedFirst'>,
  isBroughtLast = false,
): boolean {
  linkByIds(state)
  for (const side of SIDES_CHANGED) linkEqual(state, side)
  if (isMovedFirst) for (const side of SIDES_CHANGED) linkMoved(state, side)
  if (!isBroughtLast) linkEqualInBoth(state)
  for (const side of SIDES_CHANGED) linkMoved(state, side)
  const isClear = pairInGaps(state, SIDES_CHANGED, isBroughtLast)
  if (isBroughtLast) linkEqualInBoth(state)
  return isClear
}

/** What would be one if what both sides brought were looked for last. */
function linksBroughtLast(state: MatchState, reading: Reading): Links {
  const other = state.anew()
  linkThree(other, reading, true)
  return other.links
}

const NOTHING: Perhaps = new Map()

/** Whether a side lacks an entry of old and has one that old has not: only then may one be renamed. */
function hasLostAndGained(links: Links): boolean {
  return ([NEW, MINE] as const).some((side) => {
    const isFree = (a: Side, b: Side): boolean => {
      for (let at = 0; at < links.count(a); at++) if (links.partner(a, at, b) < 0) return true
      return false
    }
    return isFree(OLD, side) && isFree(side, OLD)
  })
}

/** Whether each item has what tells it and no other item of its document: then that is all there is to ask. */
function isAllNamed(told: TellApart): boolean {
  return SIDES.every((side) => {
    const seen = new Set<string>()
    for (const at of told.items[side].keys()) {
      const id = told.id(side, at)
      if (id === undefined || seen.has(id)) return false
      seen.add(id)
    }
    return true
  })
}

function linkByIds(state: MatchState): void {
  for (const [a, b] of PAIRS) linkById(state, a, b)
}

/**
 * Whether lists of one length are told by index: a `tuple` of numbers (a point, a range, a colour) or of values
 * of several types (a call with its arguments), or `switches`, which are true or false each by itself. What a
 * tuple is old tells, where it has items: a side may have put a text where a number stood.
 */
function indexedSort(items: Items): 'tuple' | 'switches' | undefined {
  const lists = items.filter((_, side) => side !== OLD || items[OLD].length > 0)
  const [first] = lists
  if (first === undefined || lists.some(({ length }) => length !== first.length || length === 0))
    return undefined
  const sorts = lists.map((list) => list.map(sortOf))
  if (sorts.every((each) => each.every((sort) => sort === 'boolean'))) return 'switches'
  const telling = items[OLD].length > 0 ? sorts.slice(0, 1) : sorts
  return telling.every(isTuple) ? 'tuple' : undefined
}

/** Whether items are all numbers, or values of several types. */
function isTuple(sorts: readonly string[]): boolean {
  return sorts.every((sort) => sort === 'number') || areMixed(sorts)
}

/** Whether items are of several types, scalars among them: `["spawn", 3]`. */
function areMixed(sorts: readonly string[]): boolean {
  return new Set(sorts).size > 1 && sorts.some(isScalar)
}

/**
 * Whether both sides gave a call more arguments: one behind the other they would be nobody's. Numbers alone may
 * as well be a sequence, to which both may add.
 */
function isLongerInBoth(items: Items): boolean {
  const [old, fresh, mine] = items
  const sorts = old.map(sortOf)
  if (fresh.length <= old.length || mine.length <= old.length) return false
  return areMixed(sorts) && sorts.every(isScalar)
}

/** What an item of an array is to a program; true, false and null are one sort in a tuple. */
function sortOf({ kind, sort }: Item): string {
  if (kind !== Kind.Scalar) return kind === Kind.Object || kind === Kind.Array ? `${kind}` : ''
  return sort === 'null' ? 'boolean' : (sort ?? '')
}

function isScalar(sort: string): boolean {
  return sort === 'number' || sort === 'boolean' || sort === 'string'
}

/** One may have put an entry where a number stood, which are no one thing; then the other two still are. */
function linkByIndex(links: Links, items: Items): void {
  for (const [a, b] of PAIRS) for (const at of items[a].keys()) links.link(a, at, b, at, 'place')
}

/** Two lists that are equal, item by item; the first of them is the one that is compared with the third. */
type Same = readonly [kept: Side, same: Side]

function sameLists(items: Items): Same | undefined {
  const pairs: readonly Same[] = [
    [OLD, MINE],
    [OLD, NEW],
    [NEW, MINE],
  ]
  return pairs.find(([a, b]) => {
    const [ones, others] = [items[a], items[b]]
    if (ones.length !== others.length || ones.length === 0) return false
    return ones.every((item, at) => item.isSame(surely(others[at])))
  })
}

/** Matches two lists, where the third is the same as one of them. */
function matchTwo(state: MatchState, [kept, same]: Same): { links: Links; perhaps: Perhaps } {
  const { links, told } = state
  for (const at of told.items[kept].keys()) links.link(kept, at, same, at, 'equal')
  const side: Changed = same === NEW ? MINE : NEW
  linkById(state, OLD, side)
  linkEqual(state, side)
  linkMoved(state, side)
  pairInGaps(state, [side])
  linkMovedAndChanged(state, [side])
  return { links, perhaps: linkRenamed(state, [side]) }
}

/** Where a side holds the other's changes, only what is equal is one: the result is as that side has it. */
function linksOfHeld(state: MatchState, side: Changed): Links {
  const { told } = state
  const links = unlinked(told)
  const other = otherSide(side)
  for (const [a, b] of PAIRS)
    for (const at of told.items[a].keys()) {
      const partner = state.links.partner(a, at, b)
      if (partner >= 0 && told.isStrong(a, at)) links.link(a, at, b, partner, 'identity')
    }
  for (const each of [other, OLD] as const) {
    const [a, b] = [state.loose(side), state.loose(each)]
    for (const [i, j] of state.aligner.align(a.tokens, b.tokens))
      links.link(side, surely(a.ranks[i]), each, surely(b.ranks[j]), 'equal')
  }
  return links
}
