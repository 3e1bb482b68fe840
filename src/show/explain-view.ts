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
    const rows = [...file.conflicts, ...file.changes].filter((row) => row.key === key)
    return rows.map((row) => explained(file, row, why(row, paint), width, paint))
  })
  if (found.length > 0) return `${found.flat().join('\n')}\n`
  const untouched = report.files.flatMap((file) => {
    const { explained: what } = file
    if (what?.is !== 'there') return []
    const row = { ...what.key, key: keyIn(file, asked), result: what.key.mine ?? what.key.new }
    return explained(file, row, UNTOUCHED, width, paint)
  })
  return `${[...found.flat(), ...untouched].join('\n')}\n`
}

/** Whether a file has a key, or a row tells of it. */
export function hasKey({ files }: CarryReport, asked: string): boolean {
  return files.some((file) => {
    const key = keyIn(file, asked)
    const isRow = (row: { key: string }): boolean => row.key === key
    return file.explained?.is === 'there' || file.conflicts.some(isRow) || file.changes.some(isRow)
  })
}

const UNTOUCHED = 'Neither vanilla nor you changed it by itself.'

/** The key that is likely meant by one that no file has, with its file. */
export function nearestKey(report: CarryReport): string | undefined {
  const near = report.files.flatMap(({ path, explained: what }) =>
    what?.is === 'not-there' && what.nearest !== undefined ? [`${path}: ${what.nearest}`] : [],
  )
  return near[0]
}

function keyIn(file: FileReport, asked: string): string {
  if (asked.startsWith(`${file.path}:`)) return asked.slice(file.path.length + 1).trim()
  return asked
}

/** What stands at a key, and where. */
type Row = Pick<Change, 'key' | 'old' | 'new' | 'mine' | 'result' | 'at'>

function explained(
  file: FileReport,
  row: Row,
  said: string,
  width: number,
  paint: Paint,
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
  lines.push(...wrap(said, width, '  '), ...reading(file, row.key, width), '')
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
