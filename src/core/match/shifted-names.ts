import { gather } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { stemOf } from '../identity/numbers.ts'
import type { Features } from '../likeness/features.ts'
import type { Pair } from '../likeness/only-ones.ts'
import { onlyPairs } from '../likeness/only-ones.ts'
import type { Shared } from '../likeness/shared-values.ts'
import { sharedValues } from '../likeness/shared-values.ts'
import type { Value } from '../likeness/value.ts'
import { weightOf } from '../likeness/weight.ts'
import type { Item } from './item.ts'
import { contentOf, valuesIn } from './item.ts'
import type { Changed, Links } from './links.ts'
import type { TellApart } from './tell-apart.ts'

/** So many things must two entries hold to be known again under another name. */
const LEAST_HELD = 2
/** So many values that stand under other names now are no chance. */
const LEAST_KNOWN = 4
/** Of fewer names nothing tells that they number something. */
const LEAST_NUMBERED = 3
/** One of so many that are others under their names must stand under another name: the rest may have gone. */
const LEAST_MOVED = 3

/** Entries by their class, and the class whose entry holds now what they held; undefined where none does. */
export type Shifted = ReadonlyMap<number, number | undefined>

/**
 * Entries whose names only number them (`Wave3`), where a side put one between them and gave the rest the next
 * names: what stands under such a name may be another entry than before. Only those that both changed,
 * differently: of any other it makes no difference.
 */
export function shiftedNames(told: TellApart, links: Links): Shifted {
  const shifted = new Map<number, number | undefined>()
  for (const side of [NEW, MINE] as const)
    for (const ranks of numberedIn(told).values()) {
      const now = shiftedIn(told, links, side, ranks)
      for (const [cls, to] of now) if (isChangedByBoth(told, links, cls)) shifted.set(cls, to)
    }
  return shifted
}

/** The entries of old that are told by a name that ends in a number, by what stands before it. */
function numberedIn(told: TellApart): Map<string, number[]> {
  const found = new Map<string, number[]>()
  for (const [at, item] of told.items[OLD].entries()) {
    const stem = stemIn(told, OLD, at, item)
    if (stem !== undefined) gather(found, stem, at)
  }
  return found
}

function stemIn(told: TellApart, side: Side, at: number, { kind, name }: Item): string | undefined {
  const isNumbered = name.charCodeAt(name.length - 1) <= DIGIT_NINE
  if (!isNumbered || !NAMED.has(kind) || told.meansOf(side, at).by !== 'name') return undefined
  const stem = stemOf(name)
  return stem === undefined ? undefined : `${kind}:${stem}`
}

/** Most names end in a letter, which comes behind the digits: no expression has to be tried on these. */
const DIGIT_NINE = 0x39
export const NAMED: ReadonlySet<Kind> = new Set([Kind.Section, Kind.Member, Kind.Element])

/** Of old's entries those that a side has otherwise under their name, where most stand under the name of another. */
function shiftedIn(
  told: TellApart,
  links: Links,
  side: Changed,
  ranks: readonly number[],
): Shifted {
  if (ranks.length < LEAST_NUMBERED) return new Map()
  const first = surely(ranks[0])
  const stem = stemIn(told, OLD, first, itemOf(told, OLD, first))
  const old = ranks.filter((at) => !isKept(told, links, [OLD, at], side))
  const changed = old.filter((at) => links.partner(OLD, at, side) >= 0)
  const put = [...told.items[side].keys()].filter(
    (at) =>
      stemIn(told, side, at, itemOf(told, side, at)) === stem &&
      !isKept(told, links, [side, at], OLD),
  )
  const now = new Map([...mostShared(told, side, old, put), ...equal(told, side, old, put)])
  const moved = changed.filter((at) => {
    const [to, named] = [now.get(at), links.partner(OLD, at, side)]
    if (to === undefined) return false
    const [one, here] = [itemOf(told, OLD, at), itemOf(told, side, named)]
    const there = itemOf(told, side, to)
    if (sharedParts(one, there).length <= sharedParts(one, here).length) return false
    const isHandedOn = links.partner(side, to, OLD) >= 0
    return isHandedOn || sharesLittle(one, here)
  })
  // what shares more with what has its name now was only changed
  const others = changed.filter((at) =>
    sharesLittle(itemOf(told, OLD, at), itemOf(told, side, links.partner(OLD, at, side))),
  )
  const known = moved.reduce((sum, at) => {
    const shared = sharedParts(itemOf(told, OLD, at), itemOf(told, side, surely(now.get(at))))
    return sum + shared.filter((part) => weightOf(part) > 0).length
  }, 0)
  if (known < LEAST_KNOWN || moved.length * LEAST_MOVED < others.length) return new Map()
  return new Map(
    changed.map((at) => {
      const to = now.get(at)
      return [links.classOf(OLD, at), to === undefined ? undefined : links.classOf(side, to)]
    }),
  )
}

/** Whether another document has an entry as it is, under its name. */
export function isKept(
  told: TellApart,
  links: Links,
  [side, at]: readonly [Side, number],
  other: Side,
): boolean {
  const partner = links.partner(side, at, other)
  return partner >= 0 && itemOf(told, side, at).isSame(itemOf(told, other, partner))
}

/** Entries of old and of a side that alone hold the same, and enough of it. */
function equal(
  told: TellApart,
  side: Changed,
  old: readonly number[],
  put: readonly number[],
): Pair[] {
  const held = (of: Side, all: readonly number[]): Value[] =>
    all.map((at) => contentOf(itemOf(told, of, at), told.values))
  const [inOld, inSide] = [held(OLD, old), held(side, put)]
  const idsOf = (values: readonly Value[]): number[] => values.map(({ id }) => id)
  return onlyPairs(idsOf(inOld), idsOf(inSide))
    .filter(([i]) => saysEnough(surely(inOld[i])))
    .map(([i, j]) => [surely(old[i]), surely(put[j])])
}

function saysEnough({ parts }: Value): boolean {
  return parts.filter((part) => weightOf(part) > 0).length >= LEAST_HELD
}

/**
 * Entries of old, and that of a side which has most of what they hold, and more than half, where few others have any
 * of it: of several for one entry the last.
 */
function mostShared(
  told: TellApart,
  side: Changed,
  old: readonly number[],
  put: readonly number[],
): Pair[] {
  const featuresOf = (of: Side, all: readonly number[]): Features[] =>
    all.map((at) => ({ paths: [], values: valuesIn(itemOf(told, of, at)).map(({ id }) => id) }))
  const [inOld, inSide] = [featuresOf(OLD, old), featuresOf(side, put)]
  const isMost = ({ one, times }: Shared): boolean => times * 2 > surely(inOld[one]).values.length
  return sharedValues(inOld, inSide, LEAST_HELD)
    .filter(isMost)
    .sort((a, b) => a.times - b.times)
    .map(({ one, other }) => [surely(old[one]), surely(put[other])])
}

/** Whether all three documents have an entry, each otherwise. */
export function isChangedByBoth(told: TellApart, links: Links, cls: number): boolean {
  const [old, fresh, mine] = SIDES.map((side) => told.items[side][links.member(side, cls)])
  if (old === undefined || fresh === undefined || mine === undefined) return false
  // mine has most as old has it, in the same words
  return !old.isSame(mine) && !old.isSame(fresh) && !fresh.isSame(mine)
}

function itemOf(told: TellApart, side: Side, at: number): Item {
  return surely(told.items[side][at])
}

/** Whether half at most of what an entry holds stands in another: a copy beside an edited entry shares more with that. */
function sharesLittle(one: Item, other: Item): boolean {
  return sharedParts(one, other).length * 2 <= valuesIn(one).length
}

/** What of an entry another holds, too. */
function sharedParts(one: Item, other: Item): Value[] {
  const there = new Set(valuesIn(other))
  return valuesIn(one).filter((part) => there.has(part))
}
