import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { Aligner } from '../likeness/align.ts'
import { alignEqual } from '../likeness/align.ts'
import type { Token } from '../likeness/diff.ts'
import type { Holding } from './already-carried.ts'
import { alreadyCarried } from './already-carried.ts'
import { Alike } from './alike.ts'
import { linkById, linkEqual, linkEqualInBoth, linkMoved, Tokens } from './equal.ts'
import { pairInGaps } from './gaps.ts'
import type { Changed } from './links.ts'
import { Links, otherSide } from './links.ts'
import { linkMovedAndChanged } from './moved.ts'
import type { Item } from './item.ts'
import type { Perhaps } from './renamed.ts'
import { linkRenamed } from './renamed.ts'
import type { Stretch } from './stretches.ts'
import { stretchesOf } from './stretches.ts'
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

/**
 * Matches the items of one list in the three documents: what is surest first, and what was linked stays so.
 *
 * 1. A tuple by index. Where two of the three lists are equal, item by item, they are one list.
 * 2. By identity.
 * 3. What is equal, in order: old with new and old with mine.
 * 4. What new and mine have equal and old has not.
 * 5. What has moved and is unchanged.
 * 6. In gaps: entries by likeness, plain ones by their order.
 * 7. What has moved and was changed; what was renamed.
 * 8. Whether a side's list holds the other's changes already.
 * 9. Which stretches both sides rewrote.
 *
 * @param siblings all that stand in the lists, where some of it is not to be matched
 */
export function matchList(items: Items, scope: Scope, siblings?: () => Items): ListMatch {
  const told = new TellApart(items, scope)
  const state = new State(told, scope, siblings)
  const { known } = scope.identities
  const all = {
    told,
    stretches: [],
    holding: undefined,
    isQuestion: false,
    isOneSided: false,
    isAllNamed: false,
  }
  if (isAllNamed(told)) {
    linkByIds(state, [NEW, MINE])
    const perhaps = hasLostAndGained(state.links) ? linkRenamed(state, [NEW, MINE]) : NOTHING
    return { ...all, links: state.links, perhaps, isAllNamed: true }
  }
  const same = sameLists(items)
  const sort = indexedSort(items)
  if (sort !== undefined) {
    linkByIndex(state.links, items)
    const isQuestion = sort === 'tuple' && same === undefined
    const isOneSided = same !== undefined
    return { ...all, links: state.links, perhaps: new Map(), isQuestion, isOneSided }
  }
  if (same !== undefined)
    return { ...all, ...matchTwo(state, same, known.aligner), isOneSided: true }
  const sides = items[OLD].length === 0 ? [] : ([NEW, MINE] as const)
  linkByIds(state, [NEW, MINE])
  for (const side of sides) linkEqual(state.links, state.tokens, side, known.aligner)
  linkEqualInBoth(state.links, state.tokens)
  for (const side of sides) linkMoved(state.links, state.tokens, side)
  const isClear = pairInGaps(state, sides)
  linkMovedAndChanged(state, sides)
  const perhaps = linkRenamed(state, sides)
  const holding = alreadyCarried(
    triple((side) => looseOf(state, side).tokens),
    known.aligner,
  )
  const isHeld = typeof holding === 'object' && holding.isSure
  return {
    told,
    links: isHeld ? linksOfHeld(state, holding.side) : state.links,
    stretches: isHeld ? [] : stretchesOf(state.links, told),
    holding,
    isQuestion: !isClear && !isHeld,
    isOneSided: false,
    isAllNamed: false,
    perhaps,
  }
}

/** What the steps work on; what only some of them ask for is made when they do. */
class State {
  readonly links: Links
  private knownTokens: Tokens | undefined
  private knownAlike: Alike | undefined

  constructor(
    readonly told: TellApart,
    private readonly scope: Scope,
    private readonly siblings: (() => Items) | undefined,
  ) {
    this.links = new Links(
      triple((side) => told.items[side].length),
      (side, at) => told.name(side, at),
    )
  }

  get tokens(): Tokens {
    return (this.knownTokens ??= new Tokens(this.told))
  }

  get alike(): Alike {
    return (this.knownAlike ??= new Alike(this.told, this.scope.identities.known, this.siblings))
  }
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

function linkByIds({ links, told }: State, sides: readonly Changed[]): void {
  for (const side of sides) linkById(links, told, OLD, side)
  linkById(links, told, NEW, MINE)
}

/**
 * Whether lists of one length are told by index: a `tuple` of numbers (a point, a range, a colour) or of values
 * of several types (a call with its arguments), or `switches`, which are true or false each by itself.
 */
function indexedSort(items: Items): 'tuple' | 'switches' | undefined {
  const lists = items.filter((_, side) => side !== OLD || items[OLD].length > 0)
  const [first] = lists
  if (first === undefined || lists.some(({ length }) => length !== first.length || length === 0))
    return undefined
  const sorts = lists.map((list) => list.map(sortOf))
  if (sorts.every((each) => each.every((sort) => sort === 'number'))) return 'tuple'
  if (sorts.every((each) => each.every((sort) => sort === 'boolean'))) return 'switches'
  const isMixed = sorts.every((each) => new Set(each).size > 1 && each.some(isScalar))
  return isMixed ? 'tuple' : undefined
}

/** What an item of an array is to a program; true, false and null are one sort in a tuple. */
function sortOf({ kind, sort }: Item): string {
  if (kind !== Kind.Scalar) return kind === Kind.Object || kind === Kind.Array ? `${kind}` : ''
  return sort === 'null' ? 'boolean' : (sort ?? '')
}

function isScalar(sort: string): boolean {
  return sort === 'number' || sort === 'boolean' || sort === 'string'
}

function linkByIndex(links: Links, items: Items): void {
  for (const at of items[MINE].keys()) {
    links.link(NEW, at, MINE, at, 'place')
    if (items[OLD].length > 0) links.link(OLD, at, MINE, at, 'place')
  }
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
    return ones.every((item, at) => {
      const other = others[at]
      return other !== undefined && item.isSame(other)
    })
  })
}

/** Matches two lists, where the third is the same as one of them. */
function matchTwo(
  state: State,
  [kept, same]: Same,
  aligner: Aligner,
): { links: Links; perhaps: Perhaps } {
  const { links, told, tokens } = state
  for (const at of told.items[kept].keys()) links.link(kept, at, same, at, 'equal')
  const side: Changed = kept === OLD && same === NEW ? MINE : NEW
  if (told.items[OLD].length === 0) return { links, perhaps: new Map() }
  linkById(links, told, OLD, side)
  linkEqual(links, tokens, side, aligner)
  linkMoved(links, tokens, side)
  pairInGaps(state, [side])
  linkMovedAndChanged(state, [side])
  return { links, perhaps: linkRenamed(state, [side]) }
}

/** The items that no strong identity tells: their ranks, and what they are equal by. */
interface Loose {
  ranks: readonly number[]
  tokens: readonly Token[]
}

function looseOf({ told, tokens }: State, side: Side): Loose {
  const ranks = [...told.items[side].keys()].filter((at) => !told.isStrong(side, at))
  const all = tokens.of(side)
  return { ranks, tokens: ranks.map((at): Token => all[at] ?? '') }
}

/** Where a side holds the other's changes, only what is equal is one: the result is as that side has it. */
function linksOfHeld(state: State, side: Changed): Links {
  const { told } = state
  const links = new Links(
    triple((each) => told.items[each].length),
    (each, at) => told.name(each, at),
  )
  const other = otherSide(side)
  for (const each of SIDES)
    for (const at of told.items[each].keys()) {
      const partner = state.links.partner(each, at, side)
      if (each !== side && partner >= 0 && told.isStrong(each, at))
        links.link(each, at, side, partner, 'identity')
    }
  for (const each of [other, OLD] as const) {
    const [a, b] = [looseOf(state, side), looseOf(state, each)]
    for (const [i, j] of alignEqual(a.tokens, b.tokens))
      links.link(side, a.ranks[i] ?? -1, each, b.ranks[j] ?? -1, 'equal')
  }
  return links
}
