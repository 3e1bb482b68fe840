import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Item } from './item.ts'
import type { Changed, Links } from './links.ts'
import { otherSide } from './links.ts'
import type { Stretch } from './stretches.ts'
import type { TellApart } from './tell-apart.ts'

/*
 * Lists may be written as groups that nothing holds together but their order: `name`, `price`, `name`, `price`.
 */

/**
 * What a side put in beside entries that the other dropped may belong to these, and would come to the group before.
 *
 * @param sorts those of the entries that the groups consist of
 * @returns the classes of what was put in, with those of the dropped entries beside it
 */
export function amidDropped(links: Links, told: TellApart, sorts: ReadonlySet<string>): Stretch[] {
  if (sorts.size === 0) return []
  const lead = told.items[OLD].map(sortOf).find((sort) => sorts.has(sort))
  return ([NEW, MINE] as const).flatMap((side) => {
    const sortAt = (at: number): string => sortOf(surely(told.items[side][at]))
    const isDropped = (at: number): boolean => isDroppedBy(links, side, at)
    const isOwn = (at: number): boolean => links.partner(side, at, otherSide(side)) < 0
    const [start, end] = [0, told.items[side].length - 1]
    return runsOf(links, told, side, isOwn).flatMap(([from, to]) => {
      const sort = sortAt(from)
      // what begins as the groups do is one of its own
      if (sort === lead) return []
      // what begins the list, or ends it, begins or ends each group
      const first = sort !== sortAt(start) && isDropped(from - 1) ? from - 1 : from
      const last = sort !== sortAt(end) && isDropped(to) ? to : to - 1
      if (first === from && last < to) return []
      return [new Set(classesOf(links, side, [first, last + 1]))]
    })
  })
}

/**
 * What both sides put in is one where it is equal. Where that is a part of what they put in, each may have a group of
 * its own that has a value in common with the other's: one of them would be left without the value.
 *
 * @param sorts those of the entries that the groups consist of
 * @returns the classes of what was put in at such a place
 */
export function broughtInPart(
  links: Links,
  told: TellApart,
  sorts: ReadonlySet<string>,
): Stretch[] {
  if (sorts.size === 0) return []
  const [fresh, mine] = ([NEW, MINE] as const).map((side) =>
    runsOf(links, told, side).map((run) => new Set(classesOf(links, side, run))),
  )
  return surely(fresh).flatMap((put) => {
    const meeting = surely(mine).filter((other) => [...other].some((cls) => put.has(cls)))
    const [first] = meeting
    if (first === undefined || (meeting.length === 1 && areSame(put, first))) return []
    return meeting.map((other) => new Set([...put, ...other]))
  })
}

function areSame(a: ReadonlySet<number>, b: ReadonlySet<number>): boolean {
  return a.size === b.size && [...a].every((each) => b.has(each))
}

/**
 * The sorts of entries that such groups consist of: in one of the documents each stands in several places, with others
 * between. None where a list is not written so.
 */
export function sortsOfGroups(told: TellApart): Set<string> {
  return new Set(told.items.flatMap(sortsIn))
}

function sortsIn(list: readonly Item[]): string[] {
  const items = list.filter(({ kind }) => !HOLDERS.has(kind))
  // what holds its own together needs no order
  if (!items.some(({ isPlain }) => isPlain)) return []
  const found: string[] = []
  const seen = new Set<string>()
  let before: string | undefined
  for (const item of items) {
    const sort = sortOf(item)
    if (sort !== before && seen.has(sort)) found.push(sort)
    seen.add(sort)
    before = sort
  }
  return found
}

type Run = readonly [from: number, to: number]

function classesOf(links: Links, side: Side, [from, to]: Run): number[] {
  return Array.from({ length: to - from }, (_, at) => links.classOf(side, from + at))
}

/** Entries that a side put in, nothing telling them but their order: from each first to behind the last. */
function runsOf(
  links: Links,
  told: TellApart,
  side: Changed,
  isMeant: (at: number) => boolean = () => true,
): Run[] {
  const runs: [number, number][] = []
  for (let at = 0; at < links.count(side); at++) {
    if (links.partner(side, at, OLD) >= 0 || told.id(side, at) !== undefined || !isMeant(at))
      continue
    const last = runs.at(-1)
    if (last?.[1] === at) last[1]++
    else runs.push([at, at + 1])
  }
  return runs
}

function isDroppedBy(links: Links, side: Changed, at: number): boolean {
  return links.partner(side, at, OLD) >= 0 && links.partner(side, at, otherSide(side)) < 0
}

const HOLDERS: ReadonlySet<Kind> = new Set([Kind.Section, Kind.Member])

function sortOf({ kind, name, sort = '' }: Item): string {
  return `${kind}:${name}:${kind === Kind.Scalar ? sort : ''}`
}
