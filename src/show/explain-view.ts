import type { Change, Conflict } from '../core/report/ledger.ts'
import type { InputName } from '../core/plan/telling.ts'
import type { CarryReport, FileReport } from '../core/report/report.ts'
import type { Paint } from './paint.ts'
import { conflictSentence } from './sentence.ts'
import { oneLine, wrap } from './text.ts'

const INPUTS: readonly InputName[] = ['old', 'new', 'mine']

/**
 * What is known of one key: its three values and their places, how entries are told apart on the way
 * to it, and why the result is what it is. The key may have its file before it, with a colon.
 */
export function showExplanation(
  report: CarryReport,
  asked: string,
  paint: Paint,
  width: number,
): string {
  const found = report.files.flatMap((file) => {
    const key = keyIn(file, asked)
    const rows =
      key === undefined ? [] : [...file.conflicts, ...file.changes].filter((row) => row.key === key)
    return rows.map((row) => explained(file, row, paint, width))
  })
  if (found.length > 0) return `${found.flat().join('\n')}\n`
  const why = `No file has a change or a conflict at the key ${asked}: neither new nor mine differs from old there, or there is no such key. --json lists all keys that differ.`
  return `${wrap(why, width, '').join('\n')}\n`
}

function keyIn(file: FileReport, asked: string): string | undefined {
  if (asked.startsWith(`${file.path}:`)) return asked.slice(file.path.length + 1).trim()
  return asked
}

function explained(
  file: FileReport,
  row: Change | Conflict,
  paint: Paint,
  width: number,
): string[] {
  const lines = [`${paint.strong(oneLine(row.key, 200))}  ${file.path}`, '']
  for (const input of INPUTS) {
    const place = row.at?.[input]
    const where = place == null ? '' : `line ${place.line}, column ${place.column}`
    lines.push(
      ...wrap(
        `${input.padEnd(7)} ${shown(row[input])}${where === '' ? '' : `   (${where})`}`,
        width,
        '  ',
      ),
    )
  }
  lines.push(...wrap(`${'result'.padEnd(7)} ${shown(row.result)}`, width, '  '), '')
  lines.push(...wrap(why(row, paint), width, '  '), ...reading(file, row.key, width), '')
  return lines
}

function shown(value: string | null): string {
  return value === null ? 'nothing' : oneLine(value.replace(/\s*\n\s*/g, ' '), 200)
}

function why(row: Change | Conflict, paint: Paint): string {
  if (!('side' in row))
    return `${conflictSentence(row, paint)} This is a conflict; until it is decided, yours stands.`
  if (row.by !== undefined) return `The config decides: ${row.by}.`
  const moved = row.kind === 'moved' ? 'moved' : row.kind === 'renamed' ? 'renamed' : 'changed'
  if (row.side === 'vanilla') return `Only vanilla has ${moved} it, so it is as in new.`
  if (row.side === 'mine') return `Only you have ${moved} it, so it is as in mine.`
  const same = row.new === row.mine
  return same
    ? `Both have ${moved} it alike.`
    : 'Both have changed the list that it holds; the items are merged.'
}

/** How the file was read, and the identities on the way to the key. */
function reading({ reading: how, format }: FileReport, key: string, width: number): string[] {
  if (how === undefined) return []
  const dialect = how.dialect === '' ? '' : `, ${how.dialect}`
  const lines = wrap(`The file is read as ${format}, ${how.encoding}${dialect}.`, width, '  ')
  const place = key.replace(/\[("(?:[^"\\]|\\.)*"|[^\]]*)\]|~[0-9]+/g, '')
  for (const [at, identity] of how.identities) {
    if (place === at || place.startsWith(`${at}/`)) {
      lines.push(
        ...wrap(
          `Entries at ${at === '' ? 'the root' : at} are told apart by ${identity}.`,
          width,
          '  ',
        ),
      )
    }
  }
  return lines
}
