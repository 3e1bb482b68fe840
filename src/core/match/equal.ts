import { gather, timesOf } from '../document/gather.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, PAIRS, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Pair, Token } from '../likeness/only-ones.ts'
import { areNames, isId } from '../identity/candidates.ts'
import { onlyPlaces } from '../likeness/only-ones.ts'
import { wordsIn } from '../likeness/value.ts'
import type { Changed, Links } from './links.ts'
import type { MatchState } from './match-state.ts'
import { areExchangeable } from './stretches.ts'
import type { TellApart } from './tell-apart.ts'

/** Links what has one identity. */
export function linkById({ links, told }: MatchState, a: Side, b: Side): void {
  const inA = new Map<string, number>()
  for (const i of told.items[a].keys()) {
    const id = told.id(a, i)
    if (id !== undefined) inA.set(id, i)
  }
  for (const j of told.items[b].keys()) {
    const i = inA.get(told.id(b, j) ?? '')
    if (i !== undefined) links.link(a, i, b, j, 'identity')
  }
}

/** Links what is equal in old and in a side, in order; first what has its number still, if that does not count. */
export function linkEqual(state: MatchState, side: Changed): void {
  if (state.told.numberedAnew?.isSure === true)
    linkAligned(state, side, state.whole(OLD), state.whole(side))
  linkAligned(state, side, state.tokens(OLD), state.tokens(side))
}

function linkAligned(
  { aligner, links, told }: MatchState,
  side: Changed,
  old: readonly Token[],
  own: readonly Token[],
): void {
  const mayReplace = (i: number, j: number): boolean =>
    areExchangeable(told.items[OLD][i], told.items[side][j])
  const pairs = aligner.align(old, own, mayReplace)
  for (const [i, j] of endsWithNothing(told) ? addedBehind(pairs, old, own) : pairs)
    links.link(OLD, i, side, j, 'equal')
}

/** Whether the last entry of old has nothing in it. */
function endsWithNothing(told: TellApart): boolean {
  const last = told.items[OLD].at(-1)?.value
  return last?.parts.length === 0 && (last.text ?? '') === ''
}

/**
 * Where two lists end with equal things and one has more of them, it has the last ones more: entries with nothing in
 * them are added behind the others.
 */
function addedBehind(
  pairs: readonly Pair[],
  a: readonly Token[],
  b: readonly Token[],
): readonly Pair[] {
  let paired = 0
  const isEnd = (from: number): boolean => {
    const [i, j] = pairs.at(-from) ?? [-1, -1]
    return i === a.length - from && j === b.length - from && a[i] === a.at(-1)
  }
  while (isEnd(paired + 1)) paired++
  const kept = pairs.slice(0, pairs.length - paired)
  const [x, y] = kept.at(-1) ?? [-1, -1]
  const more = [a.slice(x + 1, a.length - paired), b.slice(y + 1, b.length - paired)]
  const isInOne = more.filter((gap) => gap.length > 0).length === 1
  if (!isInOne || more.flat().some((token) => token !== a.at(-1))) return pairs
  return [...kept, ...Array.from({ length: paired }, (_, at): Pair => [x + 1 + at, y + 1 + at])]
}

/** Links what has moved and is as it was: equal, and the only one so in old and in the side. */
export function linkMoved(state: MatchState, side: Changed): void {
  const { links } = state
  const inOld = onlyPlaces(state.tokens(OLD))
  for (const [token, j] of onlyPlaces(state.tokens(side))) {
    const i = inOld.get(token) ?? -1
    if (i >= 0 && j >= 0) links.link(OLD, i, side, j, 'moved')
  }
}

/**
 * Links what new and mine have equal and old has not: where they put it in between the same entries of old,
 * or, where each has one such and old has none, wherever it stands.
 */
export function linkEqualInBoth(state: MatchState): void {
  const { links } = state
  const [old, fresh, mine] = triple((side) => state.tokens(side))
  const inOld = new Set(old)
  const places = [rangesOf(links, NEW), rangesOf(links, MINE)] as const
  const free = (side: Changed, all: readonly Token[]): Map<Token, number[]> => {
    const found = new Map<Token, number[]>()
    for (const [at, token] of all.entries()) {
      if (links.partner(side, at, OLD) < 0) gather(found, token, at)
    }
    return found
  }
  const inMine = free(MINE, mine)
  const counts = ([fresh, mine] as const).map((all) => timesOf(all))
  for (const [token, ones] of free(NEW, fresh)) {
    const others = inMine.get(token)
    if (others === undefined) continue
    const isOwn = !inOld.has(token) && counts.every((each) => each.get(token) === 1)
    if (isOwn) links.link(NEW, surely(ones[0]), MINE, surely(others[0]), 'equal-in-both')
    else linkMeeting(links, places, ones, others)
  }
}

/** Whether entries that a side numbered anew, or changed, are equal but for their numbers: which is which is not told. */
export function areEqualButCounted(state: MatchState, side: Changed): boolean {
  if (state.told.numberedAnew?.isSure !== true) return false
  const isSameIn = (a: Side, b: Side): ((at: number) => boolean) => {
    const others = new Set(state.whole(b))
    return (at) => others.has(surely(state.whole(a)[at]))
  }
  return (
    [
      [OLD, side],
      [side, OLD],
    ] as const
  ).some(([a, b]) => {
    const isSame = isSameIn(a, b)
    const left = state.tokens(a).filter((_, at) => !isSame(at))
    return new Set(left).size < left.length
  })
}

/**
 * Links what has one id where no identity tells the entries of the list.
 *
 * @returns whether any has, or `contradictory` where new's and mine's of one id are different ones of old
 */
export function linkByOwnIds({ links, told }: MatchState): 'none' | 'some' | 'contradictory' {
  const ids = triple((side) => ownIds(told, side))
  let result: 'none' | 'some' | 'contradictory' = 'none'
  for (const [a, b] of PAIRS)
    for (const [id, i] of ids[a]) {
      const j = ids[b].get(id) ?? -1
      if (i < 0 || j < 0) continue
      if (links.link(a, i, b, j, 'identity')) result = result === 'none' ? 'some' : result
      else if (a === NEW) result = 'contradictory'
    }
  return result
}

/** Items by an id of their own; -1 where several have one. */
type OwnIds = ReadonlyMap<string, number>

/** The items of a document by an id of their own, where nothing was inferred that tells them; numbers may only count them. */
function ownIds(told: TellApart, side: Side): OwnIds {
  const found = new Map<string, number>()
  for (const [at, item] of told.items[side].entries()) {
    const group = told.groupOf(side, at)
    if (item.isPlain || told.means(group).by !== 'sequence') continue
    const counter = told.counter(side, at)
    for (const [step, text] of wordsIn(item.value)) {
      if (step === counter || !isId(step) || !areNames([text])) continue
      const id = `${group} ${step} ${text}`
      found.set(id, found.has(id) ? -1 : at)
    }
  }
  return found
}

/** Links equal items in order where the stretches of old meet in which they stand. */
function linkMeeting(
  links: Links,
  [inNew, inMine]: readonly [Ranges, Ranges],
  ones: readonly number[],
  others: readonly number[],
): void {
  let [x, y] = [0, 0]
  while (x < ones.length && y < others.length) {
    const [i, j] = [surely(ones[x]), surely(others[y])]
    const [fromI, toI] = surely(inNew[i])
    const [fromJ, toJ] = surely(inMine[j])
    if (Math.max(fromI, fromJ) < Math.min(toI, toJ)) {
      links.link(NEW, i, MINE, j, 'equal-in-both')
      x++
      y++
    } else if (toI <= fromJ) x++
    else y++
  }
}

/** Of each item of a side the ranks in old between which it stands. */
type Ranges = readonly (readonly [from: number, to: number])[]

function rangesOf(links: Links, side: Changed): Ranges {
  const ranges: [number, number][] = []
  let from = -1
  let next = 0
  const chain = links.chain(side)
  for (let at = 0; at < links.count(side); at++) {
    const [i, j] = chain[next] ?? [links.count(OLD), -1]
    if (j === at) {
      from = i
      next++
    }
    ranges.push([from, (chain[next] ?? [links.count(OLD)])[0]])
  }
  return ranges
}
