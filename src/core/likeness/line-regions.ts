import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import type { Hunk } from './diff.ts'
import { diff } from './diff.ts'
import type { Token } from './only-ones.ts'
import { onlyPlaces } from './only-ones.ts'

/** A stretch of old that one side or both changed, and what each has in its place, as ranges of lines. */
export interface LineRegion {
  old: LineRange
  new: LineRange
  mine: LineRange
  by: 'vanilla' | 'mine' | 'both' | 'clash'
}

export type LineRange = readonly [start: number, end: number]

/**
 * Which regions of the two sides are one: those that overlap, also those that touch, or all. Where lines
 * repeat, or something was put in beside what the other side changed, what is what is not sure.
 */
export const JOINING = ['overlapping', 'touching'] as const
export type Joining = (typeof JOINING)[number] | 'all'

/**
 * The regions of three texts in which a side differs from old, in their order. Where each side put a line that it
 * has once in another place, it would stand twice: both places are in question.
 */
export function lineRegions(lines: Triple<string[]>, joins: Joining): LineRegion[] {
  const byVanilla = diff(lines[OLD], lines[NEW])
  const byMine = diff(lines[OLD], lines[MINE])
  const regions: LineRegion[] = []
  let v = 0
  let m = 0
  while (v < byVanilla.length || m < byMine.length) {
    const group = nextGroup([byVanilla, byMine], [v, m], joins)
    v += group.vanilla.length
    m += group.mine.length
    const region = regionOf(group, lines)
    const last = regions.at(-1)
    if (last !== undefined) heldAlready(last, region, lines)
    regions.push(region)
  }
  const places = { new: onlyPlaces(lines[NEW]), mine: onlyPlaces(lines[MINE]) }
  while (clashDoubled(lines, places, regions)) continue
  return regions
}

/**
 * Puts regions in question that hold a line which both have once and stands in another region of the other side;
 * gives whether there are any: where mine stands now, what vanilla took from there to elsewhere would stand twice.
 */
function clashDoubled(
  lines: Triple<string[]>,
  places: Record<'new' | 'mine', ReadonlyMap<Token, number>>,
  regions: readonly LineRegion[],
): boolean {
  const holding = (side: typeof NEW | typeof MINE, other: LineRegion['by']) => {
    const name = NAMES[side]
    const found = new Map<string, LineRegion>()
    for (const region of regions) {
      if (region.by === other || region.by === 'both') continue
      for (const line of lines[side].slice(...region[name]))
        if ((places[name].get(line) ?? -1) >= 0 && HAS_WORDS.test(line)) found.set(line, region)
    }
    return found
  }
  const ofMine = holding(MINE, 'vanilla')
  let isAny = false
  for (const [line, here] of holding(NEW, 'mine')) {
    const there = ofMine.get(line)
    if (there === undefined || there === here) continue
    if (here.by === 'clash' && there.by === 'clash') continue
    here.by = 'clash'
    there.by = 'clash'
    isAny = true
  }
  return isAny
}

/** Lines without any word, such as a closing brace, are the same in many places. */
const HAS_WORDS = /[\p{L}\p{N}]/u

/**
 * What one side put in directly behind a region that the other one changed may stand at the end of that
 * already: then both put it in, and it is not put in once more.
 */
function heldAlready(before: LineRegion, insertion: LineRegion, lines: Triple<string[]>): void {
  const isBehind = insertion.old[0] === insertion.old[1] && insertion.old[0] === before.old[1]
  if (!isBehind) return
  const [put, held] =
    insertion.by === 'vanilla' && before.by === 'mine'
      ? ([NEW, MINE] as const)
      : insertion.by === 'mine' && before.by === 'vanilla'
        ? ([MINE, NEW] as const)
        : [undefined, undefined]
  if (put === undefined) return
  const [own, other] = [NAMES[put], NAMES[held]]
  const [from, to] = insertion[own]
  const [start, end] = before[other]
  const split = end - (to - from)
  if (split < start) return
  const isHeld = lines[put].slice(from, to).every((line, i) => line === lines[held][split + i])
  if (!isHeld) return
  before[other] = [start, split]
  insertion[other] = [split, end]
  insertion.by = 'both'
}

/** How a region names what new and mine have. */
const NAMES = { [NEW]: 'new', [MINE]: 'mine' } as const

interface Group {
  old: LineRange
  vanilla: Hunk[]
  mine: Hunk[]
  /** How far each side is ahead of old before the group. */
  shift: { vanilla: number; mine: number }
}

/** The next hunk with all that overlap it, on either side. */
function nextGroup(
  [byVanilla, byMine]: readonly [readonly Hunk[], readonly Hunk[]],
  [v, m]: readonly [number, number],
  joins: Joining,
): Group {
  const first = [byVanilla[v], byMine[m]]
    .filter((hunk) => hunk !== undefined)
    .sort((a, b) => a.aStart - b.aStart || a.aEnd - b.aEnd)[0]
  const start = first?.aStart ?? 0
  let end = first?.aEnd ?? 0
  const group: Group = {
    old: [start, end],
    vanilla: [],
    mine: [],
    shift: { vanilla: shiftBefore(byVanilla, v), mine: shiftBefore(byMine, m) },
  }
  for (;;) {
    const fromVanilla = byVanilla[v + group.vanilla.length]
    const fromMine = byMine[m + group.mine.length]
    if (fromVanilla !== undefined && isJoined(fromVanilla, [start, end], joins)) {
      group.vanilla.push(fromVanilla)
      end = Math.max(end, fromVanilla.aEnd)
    } else if (fromMine !== undefined && isJoined(fromMine, [start, end], joins)) {
      group.mine.push(fromMine)
      end = Math.max(end, fromMine.aEnd)
    } else break
  }
  return { ...group, old: [start, end] }
}

function isJoined(hunk: Hunk, [start, end]: LineRange, joins: Joining): boolean {
  if (joins === 'all') return true
  if (joins === 'touching' && hunk.aStart === end) return true
  return hunk.aStart < end || (hunk.aStart === start && hunk.aStart <= end)
}

function shiftBefore(hunks: readonly Hunk[], index: number): number {
  const last = hunks[index - 1]
  return last === undefined ? 0 : last.bEnd - last.aEnd
}

function regionOf(group: Group, lines: Triple<string[]>): LineRegion {
  const range = (hunks: readonly Hunk[], shift: number): LineRange => {
    const last = hunks.at(-1)
    const after = last === undefined ? shift : last.bEnd - last.aEnd
    return [group.old[0] + shift, group.old[1] + after]
  }
  const fresh = range(group.vanilla, group.shift.vanilla)
  const mine = range(group.mine, group.shift.mine)
  const same = lines[NEW].slice(...fresh).join('') === lines[MINE].slice(...mine).join('')
  const by = same
    ? 'both'
    : group.mine.length === 0
      ? 'vanilla'
      : group.vanilla.length === 0
        ? 'mine'
        : 'clash'
  return { old: group.old, new: fresh, mine, by }
}
