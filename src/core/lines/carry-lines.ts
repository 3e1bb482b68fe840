import type { CarriedDecided } from '../carry/carry-decided.ts'
import type { CarriedText } from '../carry/carry-text.ts'
import type { Recalled, Remembered } from '../report/remembered.ts'
import type { Settled } from '../plan/telling.ts'
import type { Values } from '../report/row-values.ts'
import { Ledger } from '../report/ledger.ts'
import { endsLine, lineEndsOf, toLineEnds } from '../document/line-ends.ts'
import { timesOf } from '../document/gather.ts'
import { pick } from '../document/pick.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Joining, LineRange, LineRegion } from '../likeness/line-regions.ts'
import { JOINING, lineRegions } from '../likeness/line-regions.ts'

/**
 * The three-way merge of texts that have no keys, line by line. Regions that both sides changed,
 * differently, are conflicts of kind `lines`; mine stands there.
 */
export function carryLines(texts: Triple<string>, path: string): CarriedText {
  return merged(texts, path, joiningFor(texts))
}

/** The same, with what was decided for its regions before, and what became of each decision. */
export function carryLinesDecided(
  texts: Triple<string>,
  path: string,
  remembered: readonly Remembered[],
): CarriedDecided {
  const joins = joiningFor(texts)
  const open = merged(texts, path, joins)
  const recalled: Recalled = { applied: [], earlier: [], notApplied: [] }
  const answers = new Map<string, Remembered>()
  for (const decision of remembered) {
    const conflict = open.conflicts.find(({ key }) => key === decision.key)
    if (conflict === undefined)
      recalled.notApplied.push({ decision, why: 'nothing is in question there' })
    else if (conflict.id !== decision.id) recalled.earlier.push(decision)
    else if (decision.take === 'onto')
      recalled.notApplied.push({ decision, why: 'these are lines, not an entry' })
    else answers.set(decision.key, decision)
  }
  recalled.applied.push(...answers.values())
  return { carried: answers.size === 0 ? open : merged(texts, path, joins, answers), recalled }
}

const LINE_END = /\r\n|\r|\n/

/** How regions are joined so that no line is put in twice. */
function joiningFor(texts: Triple<string>): Joining {
  const [old, fresh, mine] = texts
  if (old === fresh || old === mine || fresh === mine) return 'overlapping'
  for (const joins of JOINING) {
    const isSure =
      isStill(texts, joins) &&
      isStillByItself([old, fresh, mine], joins) &&
      isStillByItself([old, mine, fresh], joins)
    if (isSure) return joins
  }
  return 'all'
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

/** Whether to do a carry again changes nothing, in both directions; the proof that no line is put in twice. */
function isStill([old, fresh, mine]: Triple<string>, joins: Joining): boolean {
  const again = (by: string, result: string): boolean =>
    merged([old, by, result], '', joins).text === result
  const one = merged([old, fresh, mine], '', joins)
  const other = merged([old, mine, fresh], '', joins)
  if (one.text === undefined || other.text === undefined) return false
  if (one.conflicts.length === 0 && !areCounted([old, fresh, mine], one.text)) return false
  if (!again(fresh, one.text) || !again(mine, other.text)) return false
  // what stands for an open question is an edit like any other
  const isOpen = one.conflicts.length > 0
  return isOpen || (again(mine, one.text) && again(fresh, other.text))
}

/**
 * Whether a result has as many of each line as both sides' changes come to: else a line that one side moved was taken
 * for one that the other put there, or it stayed though the other had dropped it. Blank lines are left out.
 */
function areCounted(texts: Triple<string>, result: string): boolean {
  const times = triple((side) => timesOf(texts[side].split(LINE_END)))
  const found = timesOf(result.split(LINE_END))
  const lines = new Set([...times, found].flatMap((each) => [...each.keys()]))
  return [...lines].every((line) => {
    if (line.trim() === '') return true
    const [old, fresh, mine] = triple((side) => times[side].get(line) ?? 0)
    const [byNew, byMine] = [fresh - old, mine - old]
    // what both brought, or both dropped, may be one
    const less = Math.abs(byNew) > Math.abs(byMine) ? byNew : byMine
    const all = byNew + byMine
    const bounds = byNew * byMine < 0 ? [all] : [less, all]
    const by = (found.get(line) ?? 0) - old
    return by >= Math.min(...bounds) && by <= Math.max(...bounds)
  })
}

function merged(
  texts: Triple<string>,
  path: string,
  joins: Joining,
  answers: ReadonlyMap<string, Remembered> = new Map(),
): CarriedText {
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
  for (const region of lineRegions(lines, joins)) {
    result.push(...lines[OLD].slice(at, region.old[0]))
    const answer = region.by === 'clash' ? answers.get(keyOf(region)) : undefined
    const chosen = answer === undefined ? standing(region, lines) : answered(answer, region, lines)
    result.push(...chosen)
    tell(region, lines, chosen, ledger, answer)
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
  // behind a blank line the line end is the blank line's
  return ended ? text : text.replace(/([^\n])\n$/, '$1')
}

/** Lines with their line ends; where those are of one kind the last line is given one, too. */
function splitLines(text: string, uniform: boolean): string[] {
  if (uniform && text !== '' && !endsLine(text)) return splitLines(`${text}\n`, true)
  return text.match(/[^\r\n]*(?:\r\n|\r|\n)|[^\r\n]+$/g) ?? []
}

/** What a region has where nothing was decided. */
function standing({ by, new: fresh, mine }: LineRegion, lines: Triple<string[]>): string[] {
  return by === 'vanilla' ? lines[NEW].slice(...fresh) : lines[MINE].slice(...mine)
}

/** What a region has where it was decided. */
function answered(
  { take, value = '' }: Remembered,
  { new: fresh, mine }: LineRegion,
  lines: Triple<string[]>,
): string[] {
  switch (take) {
    case 'vanilla':
      return lines[NEW].slice(...fresh)
    case 'both':
      return [...lines[NEW].slice(...fresh), ...lines[MINE].slice(...mine)]
    case 'value':
    case 'source':
      return splitLines(value, true)
    default:
      return lines[MINE].slice(...mine)
  }
}

/** The key of a region: its lines in old, or the line that it stands behind. */
function keyOf({ old: [start, end] }: LineRegion): string {
  if (end === start) return `lines[${start}+]`
  return end > start + 1 ? `lines[${start + 1}-${end}]` : `lines[${start + 1}]`
}

function tell(
  region: LineRegion,
  lines: Triple<string[]>,
  chosen: readonly string[],
  ledger: Ledger,
  answer: Remembered | undefined,
): void {
  const key = keyOf(region)
  const shown = (side: 0 | 1 | 2, [from, to]: LineRange): string | null =>
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
  const place = ([from]: LineRange): { line: number; column: number } => ({
    line: from + 1,
    column: 1,
  })
  const at = { old: place(region.old), new: place(region.new), mine: place(region.mine) }
  const settled = answer === undefined ? undefined : settledBy(answer, values.result)
  const decoded = [values.old, values.new, values.mine]
  ledger.conflict({ key, kind: 'lines', ...values, at }, decoded, settled)
}

function settledBy({ take }: Remembered, result: string | null): Settled {
  const isSide = take === 'vanilla' || take === 'mine'
  return { by: 'decision', stands: isSide ? take : { text: result ?? '' } }
}
