import { gather } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Item } from './item.ts'
import type { Changed, Gap, Links } from './links.ts'
import { otherSide } from './links.ts'
import type { TellApart } from './tell-apart.ts'

/** Classes that are one question: both sides wrote something else where they stand. */
export type Stretch = ReadonlySet<number>

/**
 * The stretches of a list that both sides rewrote, so that what is whose cannot be known: one side put
 * something in the place of entries of old, and the other dropped one of these, put something else there, or
 * changed one that is nothing but its value.
 *
 * @param others stretches that are asked for another reason
 */
export function stretchesOf(links: Links, told: TellApart, others: readonly Stretch[]): Stretch[] {
  const isLoose = (side: Side, at: number): boolean => !told.isStrong(side, at)
  const gaps = { [NEW]: links.gaps(NEW), [MINE]: links.gaps(MINE) }
  const found: Stretch[] = []
  for (const side of [NEW, MINE] as const)
    for (const gap of gaps[side]) {
      const classes = rewritten({ links, told, isLoose }, side, gap, gaps[otherSide(side)])
      if (classes !== undefined) found.push(classes)
    }
  return joined([...found, ...doubledSections(links, told), ...others])
}

/**
 * Sections of a name that stood once, or not at all, and stands several times in one document and once in another,
 * where both sides changed them: whether each is a further one or takes the place of the others nobody knows, if an
 * id of their own does not tell.
 */
function doubledSections(links: Links, told: TellApart): Set<number>[] {
  const places = triple((side) => sectionsByGroup(told, side))
  const groups = new Set(places.flatMap((each) => [...each.keys()]))
  return [...groups].flatMap((group) => {
    const ranks = triple((side) => places[side].get(group) ?? [])
    const counts = ranks.map(({ length }) => length)
    if (SIDES.every((side) => ranks[side].every((at) => told.isStrong(side, at)))) return []
    if (ranks[OLD].length > 1 || !counts.includes(1) || Math.max(...counts) < 2) return []
    const [old, fresh, mine] = triple((side) =>
      ranks[side].map((at) => surely(told.items[side][at]).value.id).join(),
    )
    if (old === fresh || old === mine || fresh === mine) return []
    return [new Set(SIDES.flatMap((side) => ranks[side].map((at) => links.classOf(side, at))))]
  })
}

function sectionsByGroup(told: TellApart, side: Side): Map<string, number[]> {
  const found = new Map<string, number[]>()
  for (const [at, { kind }] of told.items[side].entries())
    if (kind === Kind.Section) gather(found, told.groupOf(side, at), at)
  return found
}

/**
 * What new and mine have equal and old has not, where a side lacks an entry of old at that place: it may have put
 * the one in the place of the other, and the other side another one of its own.
 *
 * @param linksBroughtLast what would be one if entries of old were looked for before what both brought
 */
export function broughtOrReplaced(links: Links, linksBroughtLast: () => Links): Stretch[] {
  const brought: number[] = []
  for (let cls = 0; cls < links.length; cls++) {
    const [old, fresh, mine] = triple((side) => links.member(side, cls))
    if (old < 0 && fresh >= 0 && mine >= 0) brought.push(cls)
  }
  if (brought.length === 0) return []
  const others = linksBroughtLast()
  return brought.flatMap((cls) =>
    ([NEW, MINE] as const).flatMap((side) => {
      const other = otherSide(side)
      const replaced = links.classOf(OLD, others.partner(side, links.member(side, cls), OLD))
      const [kept, put] = [links.member(other, replaced), links.member(other, cls)]
      if (kept < 0) return []
      const stretch = new Set([cls, replaced])
      // what the other put in between goes with the one or the other
      for (let at = Math.min(kept, put) + 1; at < Math.max(kept, put); at++)
        if (links.partner(other, at, side) < 0) stretch.add(links.classOf(other, at))
      return [stretch]
    }),
  )
}

interface State {
  links: Links
  told: TellApart
  isLoose: (side: Side, at: number) => boolean
}

function rewritten(
  { links, told, isLoose }: State,
  side: Changed,
  gap: Gap,
  others: readonly Gap[],
): Set<number> | undefined {
  const other = otherSide(side)
  const isOwn = (of: Changed, at: number): boolean =>
    isLoose(of, at) && links.partner(of, at, otherSide(of)) < 0
  const old = gap.old.filter((at) => isLoose(OLD, at))
  const put = gap.put.filter((at) => isOwn(side, at))
  const mayReplace = (was: number, of: Changed, at: number): boolean =>
    areExchangeable(told.items[OLD][was], told.items[of][at])
  const contested = old.filter(
    (was) => put.some((at) => mayReplace(was, side, at)) && isTouched({ links, told }, other, was),
  )
  if (contested.length === 0) return undefined
  const classes = new Set(old.map((at) => links.classOf(OLD, at)))
  for (const at of put) classes.add(links.classOf(side, at))
  for (const each of others) {
    if (!contested.some((was) => each.old.includes(was))) continue
    for (const at of each.put) {
      const replaces = isOwn(other, at) && contested.some((was) => mayReplace(was, other, at))
      if (replaces) classes.add(links.classOf(other, at))
    }
  }
  return classes
}

/** Whether a side dropped an entry of old, or changed one that is nothing but its value. */
function isTouched({ links, told }: Omit<State, 'isLoose'>, side: Changed, was: number): boolean {
  const at = links.partner(OLD, was, side)
  if (at < 0) return true
  const [before, after] = [told.items[OLD][was], told.items[side][at]]
  return before !== undefined && after !== undefined && before.isPlain && !before.isSame(after)
}

/** Whether one may stand for the other: keys and elements of different names are different things. */
export function areExchangeable(a: Item | undefined, b: Item | undefined): boolean {
  if (a === undefined || b === undefined) return false
  if (a.kind === b.kind && a.name === b.name) return true
  if (a.kind === Kind.Element && b.kind === Kind.Element) return a.isPlain && b.isPlain
  return ITEMS.has(a.kind) && ITEMS.has(b.kind)
}

const ITEMS: ReadonlySet<Kind> = new Set([Kind.Scalar, Kind.Object, Kind.Array])

/** Sets of classes of which those that have a class in common are one. */
export function joined(sets: readonly Iterable<number>[]): Stretch[] {
  const result: Set<number>[] = []
  for (const set of sets) {
    const each = new Set(set)
    const touching = result.filter((other) => [...each].some((cls) => other.has(cls)))
    for (const other of touching) {
      for (const cls of other) each.add(cls)
      result.splice(result.indexOf(other), 1)
    }
    result.push(each)
  }
  return result
}
