import type { CarriedText } from '../carry/carry-text.ts'
import type { ChangeSide } from '../plan/telling.ts'
import type { Values } from '../report/row-values.ts'
import { Ledger } from '../report/ledger.ts'
import { endsLine, lineEndsOf, toLineEnds } from '../document/line-ends.ts'
import { pick } from '../document/pick.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Hunk } from '../likeness/diff.ts'
import { diff } from '../likeness/diff.ts'

/** A stretch of old that one side or both changed, and what each has in its place, as ranges of lines. */
interface Region {
  old: Range
  new: Range
  mine: Range
  by: ChangeSide | 'clash'
}

type Range = readonly [start: number, end: number]

/**
 * The three-way merge of texts that have no keys, line by line. Regions that both sides changed,
 * differently, are conflicts of kind `lines`; mine stands there.
 */
export function carryLines(texts: Triple<string>, path: string): CarriedText {
  const [old, fresh, mine] = texts
  if (old === fresh || old === mine || fresh === mine) return merged(texts, path, 'overlapping')
  for (const joins of JOINING) {
    const isSure =
      isStill(texts, joins) &&
      isStillByItself([old, fresh, mine], joins) &&
      isStillByItself([old, mine, fresh], joins)
    if (isSure) return merged(texts, path, joins)
  }
  return merged(texts, path, 'all')
}

/** Whether a carry of the result comes to it again, however its regions would be joined. */
function isStillByItself([old, by, other]: Triple<string>, joins: Joining): boolean {
  const { text = '' } = merged([old, by, other], '', joins)
  const again: Triple<string> = [old, by, text]
  return merged(again, '', joiningOf(again)).text === text
}

/** The first way to join regions that is still; all of them where none is, for then mine stands as a whole. */
function joiningOf(texts: Triple<string>): Joining {
  return JOINING.find((joins) => isStill(texts, joins)) ?? 'all'
}

/**
 * Which regions of the two sides are one: those that overlap, also those that touch, or all. Where lines
 * repeat, or something was put in beside what the other side changed, what is what is not sure.
 */
const JOINING = ['overlapping', 'touching'] as const
type Joining = (typeof JOINING)[number] | 'all'

/** Whether to do a carry again changes nothing, in both directions; the proof that no line is put in twice. */
function isStill([old, fresh, mine]: Triple<string>, joins: Joining): boolean {
  const again = (by: string, result: string): boolean =>
    merged([old, by, result], '', joins).text === result
  const one = merged([old, fresh, mine], '', joins)
  const other = merged([old, mine, fresh], '', joins)
  if (one.text === undefined || other.text === undefined) return false
  if (!again(fresh, one.text) || !again(mine, other.text)) return false
  // what stands for an open question is an edit like any other
  const isOpen = one.conflicts.length > 0
  return isOpen || (again(mine, one.text) && again(fresh, other.text))
}

function merged(texts: Triple<string>, path: string, joins: Joining): CarriedText {
  const ends = triple((side) => lineEndsOf(texts[side]))
  const uniform = !ends.includes('mixed')
  const target = pick(triple((side) => (ends[side] === 'none' ? undefined : ends[side]))) ?? 'lf'
  const ended =
    uniform &&
    pick(triple((side) => (texts[side] === '' ? undefined : endsLine(texts[side])))) === true
  const lines = triple((side) =>
    splitLines((uniform ? toLineEnds(texts[side], 'lf') : undefined) ?? texts[side], uniform),
  )
  const ledger = new Ledger(path)
  const result: string[] = []
  let at = 0
  for (const region of regionsOf(lines, joins)) {
    result.push(...lines[OLD].slice(at, region.old[0]))
    const [start, end] = region.by === 'vanilla' ? region.new : region.mine
    const chosen = lines[region.by === 'vanilla' ? NEW : MINE].slice(start, end)
    result.push(...chosen)
    tell(region, lines, chosen, ledger)
    at = region.old[1]
  }
  result.push(...lines[OLD].slice(at))
  const merged = uniform ? joinLines(result, ended) : result.join('')
  const text = uniform ? (toLineEnds(merged, target) ?? '') : merged
  return {
    text,
    changes: ledger.changes,
    conflicts: ledger.conflicts,
    problems: [],
    identities: new Map(),
    dialect: '',
  }
}

/** The last line's end is form: there or not there, as it was chosen three-way. */
function joinLines(lines: readonly string[], ended: boolean): string {
  const text = lines.map((line) => (/\n$/.test(line) ? line : `${line}\n`)).join('')
  return ended ? text : text.replace(/\n$/, '')
}

/** Lines with their line ends; where those are of one kind the last line is given one, too. */
function splitLines(text: string, uniform: boolean): string[] {
  if (uniform && text !== '' && !endsLine(text)) return splitLines(`${text}\n`, true)
  return text.match(/[^\r\n]*(?:\r\n|\r|\n)|[^\r\n]+$/g) ?? []
}

function regionsOf(lines: Triple<string[]>, joins: Joining): Region[] {
  const byVanilla = diff(lines[OLD], lines[NEW])
  const byMine = diff(lines[OLD], lines[MINE])
  const regions: Region[] = []
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
  return regions
}

/**
 * What one side put in directly behind a region that the other one changed may stand at the end of that
 * already: then both put it in, and it is not put in once more.
 */
function heldAlready(before: Region, insertion: Region, lines: Triple<string[]>): void {
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
  old: Range
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

function isJoined(hunk: Hunk, [start, end]: Range, joins: Joining): boolean {
  if (joins === 'all') return true
  if (joins === 'touching' && hunk.aStart === end) return true
  return hunk.aStart < end || (hunk.aStart === start && hunk.aStart <= end)
}

function shiftBefore(hunks: readonly Hunk[], index: number): number {
  const last = hunks[index - 1]
  return last === undefined ? 0 : last.bEnd - last.aEnd
}

function regionOf(group: Group, lines: Triple<string[]>): Region {
  const range = (hunks: readonly Hunk[], shift: number): Range => {
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

function tell(
  region: Region,
  lines: Triple<string[]>,
  chosen: readonly string[],
  ledger: Ledger,
): void {
  const [start, end] = region.old
  const key =
    end > start + 1
      ? `lines[${start + 1}-${end}]`
      : end > start
        ? `lines[${start + 1}]`
        : `lines[${start}+]`
  const shown = (side: 0 | 1 | 2, [from, to]: Range): string | null =>
    from === to
      ? null
      : lines[side]
          .slice(from, to)
          .join('')
          .replace(/[\r\n]+$/, '')
  const values: Values = {
    old: shown(OLD, region.old),
    new: shown(NEW, region.new),
    mine: shown(MINE, region.mine),
    result: chosen.length === 0 ? null : chosen.join('').replace(/[\r\n]+$/, ''),
  }
  if (region.by !== 'clash') {
    const kind = values.old === null ? 'added' : values.result === null ? 'removed' : 'changed'
    ledger.change({ key, side: region.by, kind, ...values })
    return
  }
  const place = ([from]: Range): { line: number; column: number } => ({ line: from + 1, column: 1 })
  const at = { old: place(region.old), new: place(region.new), mine: place(region.mine) }
  ledger.conflict({ key, kind: 'lines', ...values, at }, [values.old, values.new, values.mine])
}
