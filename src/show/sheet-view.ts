import type { Sheet } from '../core/facts/settled.ts'
import type { Paint } from './paint.ts'
import { clip, count, oneLine, pad, widthOf, wrap } from './text.ts'

/** What the columns of a sheet are headed by. */
export interface SheetHeads {
  old: string
  new: string
  mine: string
}

const GAP = 2
/** So wide a column of values is at least and at most. */
const LEAST = 6
const MOST = 16
/** From this width of a terminal on a sheet has columns. */
const WIDE = 72

/** One entry as a table: a row for each key that differs; keys that agree are one line. */
export function shownSheet(
  { entry, rows, same }: Sheet,
  heads: SheetHeads,
  paint: Paint,
  width: number,
): string[] {
  const alike = same === 0 ? [] : [`       ${count(same, 'key')} the same`]
  if (rows.length === 0) return []
  if (width < WIDE) return [...stacked(rows, heads, width), ...alike]
  const table = [
    [oneLine(entry, 40), heads.old, heads.new, heads.mine, 'draft'],
    ...rows.map(({ key, old, new: fresh, mine, result }) => [
      oneLine(key.replace(/\//g, ' ').replace(/@/g, ''), 40),
      ...[old, fresh, mine, result].map(cell),
    ]),
  ]
  const widths = [0, 1, 2, 3, 4].map((at) =>
    Math.max(LEAST, ...table.map((row) => widthOf(row[at] ?? ''))),
  )
  const capped = widths.map((each, at) => (at === 0 ? Math.min(each, 26) : Math.min(each, MOST)))
  return [
    ...table.map((row, line) => {
      const cells = row.map((text, at) => {
        const fitted = clip(text, capped[at] ?? MOST)
        if (at === 0) return pad(fitted, (capped[0] ?? 0) + GAP)
        return pad('', (capped[at] ?? 0) - widthOf(fitted)) + painted(fitted, at, line, paint)
      })
      return `       ${cells.join('  ')}`.trimEnd()
    }),
    ...alike,
  ]
}

function cell(value: string | null): string {
  return value === null ? '-' : value === '' ? 'empty' : oneLine(value, MOST)
}

function painted(text: string, at: number, line: number, paint: Paint): string {
  if (line === 0) return text
  return at === 2 ? paint.vanilla(text) : at === 3 ? paint.mine(text) : text
}

/** Columns as lines, where the terminal is narrow. */
function stacked(rows: Sheet['rows'], heads: SheetHeads, width: number): string[] {
  return rows.flatMap(({ key, old, new: fresh, mine, result }) => [
    `       ${clip(oneLine(key, 60), width - 7)}`,
    ...wrap(
      `${heads.old} ${cell(old)} · ${heads.new} ${cell(fresh)} · ${heads.mine} ${cell(mine)} · draft ${cell(result)}`,
      width,
      '         ',
    ),
  ])
}
