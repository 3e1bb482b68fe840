import type { GroupRow, ScreenGroup } from '../../core/facts/screen.ts'
import type { Paint } from '../paint.ts'
import { count, oneLine, pad, widthOf } from '../text.ts'
import { fitted } from './fitted.ts'
import type { ScreenState } from './state.ts'

const WORDS: Readonly<Record<string, string>> = {
  'new-name': 'came everywhere',
  added: 'came',
  removed: 'went',
  changed: 'changed',
  moved: 'moved',
  renamed: 'renamed',
  'file-added': 'files that came',
  'file-removed': 'files that went',
}

/** What vanilla changed and brought, alike changes as one; those that nobody looked at first. */
export function groupList(
  groups: readonly ScreenGroup[],
  at: number,
  paint: Paint,
  width: number,
  room: number,
): string[] {
  if (groups.length === 0) return ['', 'Vanilla changed nothing here that is to be looked at.']
  const from = windowFrom(groups.length, at, room)
  return groups.slice(from, from + room).map((group, i) => {
    const is = from + i === at
    const { path, pattern, kind, count: keys, isLookedAt } = group
    const what = WORDS[kind] ?? kind
    const name = `${pattern === '' ? '' : pattern}${path === '' ? '' : `  ${path}`}`
    const mark = isLookedAt ? 'seen' : '    '
    const number = String(keys).padStart(5)
    const room2 = width - 2 - 4 - 2 - 16 - number.length - 2
    const text = `${is ? '>' : ' '} ${mark}  ${pad(oneLine(what, 15), 15)}${number}  ${oneLine(name.trim(), room2)}`
    return is
      ? paint.open(fitted(text, width))
      : isLookedAt
        ? paint.quiet(fitted(text, width))
        : fitted(text, width)
  })
}

function windowFrom(length: number, at: number, room: number): number {
  return Math.max(0, Math.min(length - room, at - Math.floor(room / 2)))
}

/** The keys of a group of changes, to look at and to tune. */
export function groupRows(
  { rows, at, state }: { rows: readonly GroupRow[]; at: number; state: ScreenState },
  paint: Paint,
  width: number,
  room: number,
): string[] {
  const { data } = state
  const [first] = rows
  const where = first === undefined ? '' : ` in ${oneLine(first.path, 40)}`
  const longest = Math.max(10, ...rows.map((row) => widthOf(nameOf(row)) + 2))
  const names = Math.max(10, Math.min(longest, width - 2 - 4 * COLUMN))
  const heads = [data.from, data.to, data.variant, 'draft']
  const head = [
    paint.strong(fitted(`${count(rows.length, 'change')} of vanilla${where}`, width)),
    fitted(`  ${pad('', names)}${heads.map((each) => column(each)).join('')}`, width),
  ]
  if (rows.length === 0) return [...head, '  Nothing of this group stands in the draft as it came.']
  const list = room - head.length
  const from = windowFrom(rows.length, at, list)
  return [
    ...head,
    ...rows.slice(from, from + list).map((row, i) => {
      const is = from + i === at
      const name = `${is ? '>' : ' '} ${pad(oneLine(nameOf(row), names - 1), names)}`
      const [old, fresh, mine, result] = [row.old, row.new, row.mine, row.result].map(cell)
      const isTuned = row.result !== row.new
      if (is) return paint.open(fitted(name + [old, fresh, mine, result].join(''), width))
      const values = [
        old,
        paint.vanilla(fresh ?? ''),
        mine,
        isTuned ? paint.mine(result ?? '') : paint.vanilla(result ?? ''),
      ]
      return fitted(name + values.join(''), width)
    }),
  ]
}

function nameOf({ key, path }: GroupRow): string {
  return key === '' ? path : key
}

/** So wide a column of values is. */
const COLUMN = 13

function column(text: string): string {
  return pad(oneLine(text, COLUMN - 2), COLUMN)
}

function cell(value: string | null): string {
  if (value === null) return column('-')
  return column(value === '' ? 'empty' : value.replace(/\s+/g, ' '))
}
