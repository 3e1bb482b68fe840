import { gather } from '../document/gather.ts'
import { isRepeatable } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { SideEntry } from './affixed.ts'
import { linkByAffix } from './affixed.ts'
import type { Changed } from './links.ts'
import type { MatchState } from './match-state.ts'
import { renamedKeys } from './renamed-keys.ts'
import { byPool, identityPaths, ownPool } from './pools.ts'
import { sharing } from './sharing.ts'
import type { TellApart } from './tell-apart.ts'

/** A rename is claimed from this likeness on, ... */
const LEAST_RENAMED = 0.9
/** ... where so many values that count are the same, ... */
const LEAST_COUNTING = 5
/** ... of so many siblings, for else nothing tells what counts, ... */
const LEAST_SIBLINGS = 3
/** ... and no other sibling comes nearer than this. */
const CLEARLY = 0.15
/** So many values must be theirs alone for two to be compared at all. */
const LEAST_SHARED = 2
/** From this likeness on an entry is named as what another may have become. */
const PERHAPS = 0.3
/** The same where both dropped the entry, so that nothing else of it is told. */
const PERHAPS_OF_DROPPED = 0.7

/** What may have become of entries under another name, in new and in mine, without being sure enough. */
export type Perhaps = ReadonlyMap<number, readonly number[]>

/**
 * Finds entries that a side gave another name: beyond doubt the two are one. Of the others it is told what
 * they may have become.
 *
 * @returns of classes that a side dropped or renamed, the classes that each may be now
 */
export function linkRenamed(state: MatchState, sides: readonly Changed[]): Perhaps {
  const { links } = state
  const perhaps = new Map<number, number[]>()
  for (const side of sides) linkByKeptNumber(state, OLD, side)
  if (sides.length > 1) linkByKeptNumber(state, NEW, MINE)
  const unlike = linkByAffix(state, sides)
  const found = sides.flatMap((side) => renamedBy(state, side))
  for (const one of found) {
    const { side, i, j, isSure } = one
    const [from, to] = [links.classOf(OLD, i), links.classOf(side, j)]
    const isOurs = side === MINE || !hasOtherNames(state, one, found)
    if (isSure && isOurs && links.link(OLD, i, side, j, 'renamed')) continue
    if (!links.isInOldAlone(from) || one.score >= PERHAPS_OF_DROPPED) gather(perhaps, from, to)
  }
  const byName = sides.flatMap((side) =>
    renamedKeys(state, side).map(([i, j]): SideEntry => [i, side, j]),
  )
  for (const [i, side, j] of [...byName, ...unlike]) {
    const [from, to] = [links.classOf(OLD, i), links.classOf(side, j)]
    const isTold = perhaps.get(from)?.includes(to) === true
    if (!links.isInOldAlone(from) && !isTold) gather(perhaps, from, to)
  }
  return perhaps
}

/**
 * Links entries that nothing else links and that have one number in two documents. Numbers tell nothing where a side
 * gave them anew, but between two documents they do where every other entry has its number in both.
 */
function linkByKeptNumber({ links, told }: MatchState, a: Side, b: Side): void {
  const free = new Map<string, number>()
  for (const j of told.items[b].keys()) {
    const number = told.number(b, j)
    if (number === undefined) continue
    const i = links.partner(b, j, a)
    if (i < 0) free.set(number, j)
    else if (told.number(a, i) !== number) return
  }
  if (free.size === 0) return
  for (const i of told.items[a].keys()) {
    const number = told.number(a, i)
    const j = number === undefined ? undefined : free.get(number)
    const why = told.id(a, i) === undefined ? 'alike' : 'renamed'
    if (j !== undefined) links.link(a, i, b, j, why)
  }
}

/**
 * Whether mine gave an entry another name than new did, where the name is no value that both can be asked about:
 * then mine's entry is the one, and it is asked what becomes of vanilla's.
 */
function hasOtherNames({ told }: MatchState, one: Renamed, all: readonly Renamed[]): boolean {
  const { side, i, j } = one
  if (told.meansOf(side, j).by === 'identity') return false
  const ours = all.find((each) => each.side === MINE && each.i === i && each.isSure)
  return ours !== undefined && told.id(MINE, ours.j) !== told.id(side, j)
}

interface Renamed {
  side: Changed
  i: number
  j: number
  score: number
  isSure: boolean
}

function renamedBy(state: MatchState, side: Changed): Renamed[] {
  const { links, told } = state
  const isLost = (at: number): boolean => links.partner(OLD, at, side) < 0
  const isGained = (at: number): boolean => links.partner(side, at, OLD) < 0
  const named = byPool(told, OLD, isLost, ownPool)
  const found = bestOfPools(state, side, named, byPool(told, side, isGained, ownPool))
  // an element or a section of another name is never taken for one in silence, whatever is inside
  const known = new Set(found.map(({ i }) => i))
  const others = byPool(told, OLD, (at) => isLost(at) && !known.has(at), poolOfAnyName)
  const gained = byPool(told, side, isGained, poolOfAnyName)
  return [
    ...found,
    ...bestOfPools(state, side, others, gained).map((one) => ({ ...one, isSure: false })),
  ]
}

type Pools = ReadonlyMap<string, readonly number[]>

function bestOfPools(state: MatchState, side: Changed, lost: Pools, gained: Pools): Renamed[] {
  return [...lost].flatMap(([pool, ones]) => {
    const others = gained.get(pool) ?? []
    return others.length === 0 ? [] : best(state, side, ones, others)
  })
}

/** Of an element or a section: all others, for the name itself may have changed. */
function poolOfAnyName(told: TellApart, side: Side, at: number): string | undefined {
  const { kind } = surely(told.items[side][at])
  return isRepeatable(kind) ? `${kind}` : undefined
}

/** Of each entry that was dropped the likeliest of those that were brought. */
function best(
  state: MatchState,
  side: Changed,
  ones: readonly number[],
  others: readonly number[],
): Renamed[] {
  const { alike, told } = state
  const paths = alike.numbersOf(identityPaths(told, surely(ones[0])))
  const score = (a: Side, i: number, b: Side, j: number): number =>
    alike.likeness(a, i, b, j, paths).score
  const candidates = new Map<number, number[]>()
  for (const [i, j] of sharing(alike, [OLD, ones], [side, others], LEAST_SHARED))
    gather(candidates, i, j)
  return [...candidates].flatMap(([i, ofOne]) => {
    const ranked = ofOne
      .map((j) => ({ j, score: score(OLD, i, side, j) }))
      .sort((a, b) => b.score - a.score || a.j - b.j)
    const first = surely(ranked[0])
    const second = ranked[1]
    if (first.score < PERHAPS) return []
    const { j } = first
    const { counting } = alike.likeness(OLD, i, side, j, paths)
    const isSure =
      first.score >= LEAST_RENAMED &&
      counting >= LEAST_COUNTING &&
      alike.siblingsOf(OLD, i) >= LEAST_SIBLINGS &&
      first.score - (second?.score ?? 0) >= CLEARLY &&
      !holdsBoth(state, i, side, j) &&
      isAlone(state, [OLD, i], [side, j], first.score, score)
    return [{ side, i, j, score: first.score, isSure }]
  })
}

/** Whether no sibling of either is nearly as much like the other. */
function isAlone(
  { told }: MatchState,
  [a, i]: readonly [Side, number],
  [b, j]: readonly [Side, number],
  reached: number,
  score: (a: Side, i: number, b: Side, j: number) => number,
): boolean {
  const own = told.pool(surely(told.items[a][i]))
  const siblings = (side: Side, but: number): number[] =>
    [...told.items[side].entries()]
      .filter(([at, item]) => at !== but && told.pool(item) === own)
      .map(([at]) => at)
  return (
    siblings(a, i).every((at) => reached - score(a, at, b, j) >= CLEARLY) &&
    siblings(b, j).every((at) => reached - score(a, i, b, at) >= CLEARLY)
  )
}

/** Whether any document has an entry of the old name and one of the new name. */
function holdsBoth({ links }: MatchState, i: number, side: Changed, j: number): boolean {
  const [cls, other] = [links.classOf(OLD, i), links.classOf(side, j)]
  return SIDES.some((each) => links.member(each, cls) >= 0 && links.member(each, other) >= 0)
}
