import type { Outcome, Whole } from '../../core/carry/file-fate.ts'
import { fileFate } from '../../core/carry/file-fate.ts'
import type { Change, Conflict, ConflictKind } from '../../core/carry/ledger.ts'
import { conflictId } from '../../core/carry/ledger.ts'
import type { FileReport } from '../../core/carry/report.ts'
import { fileReport } from '../../core/carry/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, triple } from '../../core/document/sides.ts'
import { loadCodecs } from '../content/codec.ts'
import type { KnownFormat } from '../content/file-format.ts'
import { formatOf } from '../content/file-format.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import { same } from './file-input.ts'
import { mergeContent } from './merge-content.ts'
import { taken } from './take.ts'

/** Carries one file: by key where it has a format, by lines where it is text, else whole. */
export async function carryFile(input: FileInput): Promise<CarriedFile> {
  const take = input.rule?.take ?? 'merge'
  if (take === 'leave-out') return { report: report(input, 'other', 'left-out'), bytes: undefined }
  await loadCodecs(input.bytes)
  if (input.oldUnknown === true) return compared(input)
  if (take === 'merge') return merged(input)
  return taken(input, take, merged(input).report)
}

/** Nothing is known of old: mine stands, and whatever new has otherwise is a question. */
function compared(input: FileInput): CarriedFile {
  const [, fresh, mine] = input.bytes
  if (fresh === undefined || mine === undefined) {
    return wholeConflict(input, 'other', fresh === undefined ? 'gone-in-vanilla' : 'gone-in-mine')
  }
  const format = formatOf(input)
  if (same(fresh, mine))
    return { report: report(input, format?.name ?? 'other', 'same'), bytes: mine }
  if (format === undefined || format.name === 'text') return wholeConflict(input, 'other', 'file')
  const byKey = mergeContent(input, format.name, undefined)
  const unsure = byKey.report.outcome === 'unread' && !format.certain
  return unsure ? wholeConflict(input, 'other', 'file') : byKey
}

function merged(input: FileInput): CarriedFile {
  const fate = fileFate(presenceOf(input.bytes))
  if (fate.do === 'settled') return settled(input, fate.outcome, fate.whole)
  const format = formatOf(input)
  if (fate.do === 'dropped') return dropped(input, fate.by, format)
  const whole =
    fate.do === 'compare'
      ? { outcome: fate.outcome, bytes: wholeBytes(input.bytes, fate.whole) }
      : undefined
  const usable = format !== undefined && (format.name !== 'text' || input.bytes[OLD] !== undefined)
  if (usable) {
    const isLast = format.certain && (input.rule?.take ?? 'merge') === 'merge'
    const byContent = mergeContent(input, format.name, whole, isLast)
    if (byContent.report.outcome !== 'unread' || format.certain) return byContent
  }
  if (whole === undefined) return wholeConflict(input, 'other', 'file')
  const { bytes } = input
  const side =
    whole.outcome === 'vanilla' ? 'vanilla' : same(bytes[NEW], bytes[MINE]) ? 'both' : 'mine'
  return {
    report: report(input, 'other', whole.outcome, [wholeRow(side, 'changed')]),
    bytes: whole.bytes,
  }
}

function settled(input: FileInput, outcome: Outcome, whole: Whole): CarriedFile {
  const [old, fresh, mine] = input.bytes
  const rows: Change[] = []
  if (outcome === 'added') rows.push(wholeRow('vanilla', 'added'))
  else if (outcome === 'removed') {
    const both = fresh === undefined && mine === undefined
    rows.push(wholeRow(both ? 'both' : fresh === undefined ? 'vanilla' : 'mine', 'removed'))
  } else if (outcome === 'mine' && old === undefined) {
    rows.push(wholeRow(fresh === undefined ? 'mine' : 'both', 'added'))
  }
  const format = formatOf(input)?.name ?? 'other'
  return { report: report(input, format, outcome, rows), bytes: wholeBytes(input.bytes, whole) }
}

/** One side dropped the file and the other changed it: by value, or in its form alone. */
function dropped(
  input: FileInput,
  by: 'vanilla' | 'mine',
  format: KnownFormat | undefined,
): CarriedFile {
  const { bytes } = input
  const kept = by === 'vanilla' ? bytes[MINE] : bytes[NEW]
  if (format !== undefined && format.name !== 'text') {
    const asKept = mergeContent(
      { ...input, bytes: [bytes[OLD], kept, kept] },
      format.name,
      undefined,
    )
    const { outcome, changes } = asKept.report
    if (outcome === 'unread' && format.certain) return asKept
    if (outcome !== 'unread' && changes.length === 0) return settled(input, 'removed', 'none')
  }
  const kind = by === 'vanilla' ? 'gone-in-vanilla' : 'gone-in-mine'
  return wholeConflict(input, format?.name ?? 'other', kind)
}

function wholeConflict(
  input: FileInput,
  format: FileReport['format'],
  kind: ConflictKind,
): CarriedFile {
  const first = { line: 1, column: 1 }
  const [old, fresh, mine] = input.bytes.map((bytes) => (bytes === undefined ? null : first))
  const decoded = input.bytes.map((bytes) =>
    bytes === undefined ? null : bytes.toString('latin1'),
  )
  const conflict: Conflict = {
    key: '',
    kind,
    id: conflictId(input.path, '', decoded),
    old: null,
    new: null,
    mine: null,
    result: null,
    at: { old: old ?? null, new: fresh ?? null, mine: mine ?? null },
  }
  return { report: report(input, format, 'conflict', [], [conflict]), bytes: input.bytes[MINE] }
}

/** The row of a file that arrives, goes or is taken as a whole. */
function wholeRow(side: Change['side'], kind: Change['kind']): Change {
  return { key: '', side, kind, old: null, new: null, mine: null, result: null }
}

function presenceOf(bytes: Triple<Buffer | undefined>): Parameters<typeof fileFate>[0] {
  const [old, fresh, mine] = bytes
  return {
    has: triple((side) => bytes[side] !== undefined),
    equal: { oldNew: same(old, fresh), oldMine: same(old, mine), newMine: same(fresh, mine) },
  }
}

function wholeBytes(bytes: Triple<Buffer | undefined>, whole: Whole): Buffer | undefined {
  return whole === 'none' ? undefined : bytes[SIDE_NAMES.indexOf(whole)]
}

/** A report of one file, without problems. */
function report(
  { path }: FileInput,
  format: FileReport['format'],
  outcome: Outcome,
  changes: Change[] = [],
  conflicts: Conflict[] = [],
): FileReport {
  return fileReport({ path, format, outcome }, { changes, conflicts })
}
