import { keyInFile } from '../core/keys/file-key.ts'
import type { Change, Conflict } from '../core/report/ledger.ts'
import type { InputName } from '../core/plan/telling.ts'
import type { CarryReport, FileReport } from '../core/report/report.ts'
import type { CarryDocument } from './carry-document.ts'
import type { Paint } from './paint.ts'
import { PLAIN } from './paint.ts'
import { conflictSentence, tiedSentence } from './sentence.ts'
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
  const lines = explanationsOf(report, asked, paint).flatMap((each, i) => [
    ...(i === 0 ? [] : ['']),
    ...explained(each, width, paint),
  ])
  return `${lines.join('\n')}\n`
}

/** What is told of one key of one file. */
interface Explanation {
  file: FileReport
  row: Row
  why: string
}

/** The rows of a key; where none tells of it, what the files have there. */
function explanationsOf({ files }: CarryReport, asked: string, paint: Paint): Explanation[] {
  const found = files.flatMap((file) =>
    [...file.conflicts, ...file.changes]
      .filter((row) => row.key === keyInFile(file.path, asked))
      .map((row) => ({ file, row, why: why(row, paint) })),
  )
  if (found.length > 0) return found
  return files.flatMap((file) => {
    const { explained: what } = file
    if (what?.is !== 'there') return []
    const row = {
      ...what.key,
      key: keyInFile(file.path, asked),
      result: what.key.mine ?? what.key.new,
    }
    return [{ file, row, why: UNTOUCHED }]
  })
}

/** The same as a part of the JSON document: of the first file that has the key. */
export function explanationJson(
  report: CarryReport,
  asked: string,
): CarryDocument['explain'] | undefined {
  const [first] = explanationsOf(report, asked, PLAIN)
  if (first === undefined) return undefined
  const { file, row } = first
  const side = (
    input: InputName,
  ): { value: string; line: number | null; column: number | null } | null => {
    const value = row[input]
    const at = row.at?.[input]
    return value === null ? null : { value, line: at?.line ?? null, column: at?.column ?? null }
  }
  const identity = identitiesOf(file, row.key).map(([place, by]) => `${place} by ${by}`)
  return {
    path: file.path,
    key: row.key,
    identity: identity.length === 0 ? null : identity.join(', '),
    old: side('old'),
    new: side('new'),
    mine: side('mine'),
    result: row.result,
    why: first.why,
    by: row.by ?? null,
  }
}

/** Whether a file has a key, or a row tells of it. */
export function hasKey({ files }: CarryReport, asked: string): boolean {
  return files.some((file) => {
    const key = keyInFile(file.path, asked)
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

/** What stands at a key, and where. */
type Row = Pick<Change, 'key' | 'old' | 'new' | 'mine' | 'result' | 'at' | 'by'>

function explained({ file, row, why: said }: Explanation, width: number, paint: Paint): string[] {
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
  lines.push(...wrap(said, width, '  '), ...reading(file, row.key, width))
  return lines
}

function shown(value: string | null): string {
  return value === null ? 'nothing' : oneLine(value.replace(/\s*\n\s*/g, ' '), 200)
}

function why(row: Change | Conflict, paint: Paint): string {
  if (!('side' in row)) {
    const said =
      row.together === undefined ? conflictSentence(row, paint) : tiedSentence([row], paint)
    return `${said} This is a conflict; until it is decided, yours stands.`
  }
  if (row.by !== undefined) return `The config decides: ${row.by}.`
  const moved = row.kind === 'moved' ? 'moved' : row.kind === 'renamed' ? 'renamed' : 'changed'
  if (row.side === 'vanilla') return `Only vanilla has ${moved} it, so it is as in new.`
  if (row.side === 'mine') return `Only you have ${moved} it, so it is as in mine.`
  if (row.kind === 'added' && row.new !== row.mine)
    return 'Both brought it; what differs inside is a question of its own.'
  const same = row.new === row.mine
  return same
    ? `Both have ${moved} it alike.`
    : 'Both have changed the list that it holds; the items are merged.'
}

/** How the file was read, and the identities on the way to the key. */
function reading(file: FileReport, key: string, width: number): string[] {
  const { reading: how, format } = file
  if (how === undefined) return []
  const dialect = how.dialect === '' ? '' : `, ${how.dialect}`
  const said = [`The file is read as ${format}, ${how.encoding}${dialect}.`]
  for (const [at, identity] of identitiesOf(file, key))
    said.push(`Entries at ${at === '' ? 'the root' : at} are told apart by ${identity}.`)
  return said.flatMap((each) => wrap(each, width, '  '))
}

/** What tells the entries apart on the way to a key: place and identity. */
function identitiesOf({ reading: how }: FileReport, key: string): [string, string][] {
  const place = key.replace(/\[("(?:[^"\\]|\\.)*"|[^\]]*)\]|~[0-9]+/g, '')
  return [...(how?.identities ?? [])].filter(
    ([at]) => place === at || place.startsWith(`${at}/`) || at === '',
  )
}
