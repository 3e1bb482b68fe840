import type { CarriedText } from '../carry/carry-text.ts'
import type { Values } from '../report/row-values.ts'
import { Ledger } from '../report/ledger.ts'
import { endsLine, lineEndsOf, toLineEnds } from '../document/line-ends.ts'
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
  for (const region of lineRegions(lines, joins)) {
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

function tell(
  region: LineRegion,
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
  ledger.conflict({ key, kind: 'lines', ...values, at }, [values.old, values.new, values.mine])
}
