import type { Outcome, Whole } from '../../core/report/file-fate.ts'
import { fileFate, presenceOf, wholeChange } from '../../core/report/file-fate.ts'
import type { Change, Conflict } from '../../core/report/ledger.ts'
import type { ConflictKind } from '../../core/plan/telling.ts'
import type { Explained } from '../../core/report/explained.ts'
import type { FileReport } from '../../core/report/report.ts'
import { fileReport } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import { loadCodecs } from '../content/codec.ts'
import type { KnownFormat } from '../content/file-format.ts'
import { formatOf } from '../content/file-format.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import { same } from './file-input.ts'
import { mergeContent } from './merge-content.ts'
import { taken } from './take.ts'
import { conflictOfWhole, rowOfWhole } from './whole-entry.ts'

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
  const fate = fileFate(presenceOf(input.bytes, same))
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
  return {
    report: report(input, 'other', whole.outcome, wholeRows(input.bytes)),
    bytes: whole.bytes,
  }
}

function settled(input: FileInput, outcome: Outcome, whole: Whole): CarriedFile {
  const format = formatOf(input)?.name ?? 'other'
  const told = report(input, format, outcome, wholeRows(input.bytes))
  const explained = explainedIn(input, format)
  return {
    report: explained === undefined ? told : { ...told, explained },
    bytes: wholeBytes(input.bytes, whole),
  }
}

/** What a file that is not merged has at the key that is to be explained. */
function explainedIn(input: FileInput, format: FileReport['format']): Explained | undefined {
  const { bytes } = input
  const one = bytes.find((each) => each !== undefined)
  const isKeyed = format !== 'other' && format !== 'text'
  if (input.explain === undefined || one === undefined || !isKeyed) return undefined
  const all: FileInput['bytes'] = triple((side) => bytes[side] ?? one)
  const { explained } = mergeContent({ ...input, bytes: all }, format, undefined).report
  if (explained?.is !== 'there') return explained
  const { key } = explained
  for (const side of SIDES) {
    if (bytes[side] !== undefined) continue
    const name = SIDE_NAMES[side]
    key[name] = null
    key.at[name] = null
  }
  return explained
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
  const { path, bytes } = input
  const first = { line: 1, column: 1 }
  const [old, fresh, mine] = triple((side) => (bytes[side] === undefined ? null : first))
  const contents = triple((side) => bytes[side]?.toString('latin1'))
  const conflict = { ...conflictOfWhole(path, kind, contents), at: { old, new: fresh, mine } }
  return { report: report(input, format, 'conflict', [], [conflict]), bytes: bytes[MINE] }
}

/** The row of a file that arrives, goes or is taken as a whole; none where nothing became of it. */
function wholeRows(bytes: Triple<Buffer | undefined>): Change[] {
  const change = wholeChange(presenceOf(bytes, same))
  return change === undefined ? [] : [rowOfWhole(change)]
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
