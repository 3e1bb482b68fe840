import type { Outcome, Whole } from '../../core/report/file-fate.ts'
import { fileFate, presenceOf, wholeChange } from '../../core/report/file-fate.ts'
import type { Change, Conflict } from '../../core/report/ledger.ts'
import type { ConflictKind } from '../../core/plan/telling.ts'
import type { Explained } from '../../core/report/explained.ts'
import type { FileReport } from '../../core/report/report.ts'
import { countsOf, fileReport } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import type { Remembered } from '../../core/report/remembered.ts'
import { loadCodecs } from '../content/codec.ts'
import type { KnownFormat } from '../content/file-format.ts'
import { formatOf } from '../content/file-format.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import { same } from './file-input.ts'
import type { Decided } from './merge-content.ts'
import { mergeContent } from './merge-content.ts'
import { taken } from './take.ts'
import { withWholeDecision } from './whole-decision.ts'
import { conflictOfWhole, rowOfWhole } from './whole-entry.ts'

/** Carries one file: by key where it has a format, by lines where it is text, else whole. */
export async function carryFile(input: FileInput): Promise<CarriedFile> {
  const take = input.rule?.take ?? 'merge'
  if (take === 'leave-out') return { report: report(input, 'other', 'left-out'), bytes: undefined }
  await loadCodecs(input.bytes)
  const { bytes, remembered = [] } = input
  // a carry lets go of the bytes of its input as soon as they are text
  const carried = carriedAs(input, take)
  return remembered.length === 0 ? carried : withWholeDecision(input, bytes, carried)
}

function carriedAs(input: FileInput, take: 'vanilla' | 'mine' | 'merge'): CarriedFile {
  if (input.oldUnknown === true) return compared(input)
  if (take === 'merge') return merged(input)
  return taken(input, take, merged({ ...input, remembered: [] }).report)
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
  const byFormat = mergedBy(input, format, whole)
  if (byFormat !== undefined) return byFormat
  if (whole === undefined) return wholeConflict(input, 'other', 'file')
  return {
    report: report(input, 'other', whole.outcome, wholeRows(input.bytes)),
    bytes: whole.bytes,
  }
}

/**
 * A file merged as its format says. Where only its content spoke for the format and vanilla's own files are not of it,
 * by lines. Undefined where it is no text, or where no lines can be compared.
 */
function mergedBy(
  input: FileInput,
  format: KnownFormat | undefined,
  whole: Decided | undefined,
): CarriedFile | undefined {
  if (format === undefined) return undefined
  const byLines = (): CarriedFile | undefined => {
    const made = input.bytes[OLD] === undefined ? undefined : mergeContent(input, 'text', whole)
    return made?.report.outcome === 'unread' ? undefined : made
  }
  if (format.name === 'text') return byLines()
  const isLast = format.certain && (input.rule?.take ?? 'merge') === 'merge'
  const made = mergeContent(input, format.name, whole, isLast)
  if (made.report.outcome !== 'unread' || format.certain) return made
  const isMineAlone = made.report.problems.every(
    ({ severity, input: of }) => severity !== 'error' || of === 'mine',
  )
  return isMineAlone ? made : byLines()
}

function settled(input: FileInput, outcome: Outcome, whole: Whole): CarriedFile {
  const format = formatOf(input)?.name ?? 'other'
  const told = report(input, format, outcome, wholeRows(input.bytes))
  const explained = explainedIn(input, format)
  const bytes = wholeBytes(input.bytes, whole)
  const settledFile = {
    report: explained === undefined ? told : { ...told, explained },
    bytes,
  }
  const isTuned = bytes !== undefined && format !== 'other' && format !== 'text'
  return isTuned ? tuned(input, format, settledFile, bytes) : settledFile
}

/** A file that one side alone has, or that all have alike, with the values that were set in it. */
function tuned(
  input: FileInput,
  format: KnownFormat['name'],
  file: CarriedFile,
  bytes: Buffer,
): CarriedFile {
  const { remembered = [] } = input
  const side = SIDE_NAMES[([MINE, NEW] as const).find((each) => input.bytes[each]) ?? MINE]
  const known = new Map(remembered.map((each) => [each.key, each]))
  const alike = remembered.map((each) => {
    const value = each[side]
    return { ...each, old: value, new: value, mine: value }
  })
  if (alike.every(({ key }) => key === '')) return file
  const all: FileInput = { ...input, bytes: [bytes, bytes, bytes], remembered: alike }
  const { report: made, bytes: result, recalled } = mergeContent(all, format, undefined)
  const asIs = ({ key }: { key: string }): Remembered | undefined => known.get(key)
  const rows = made.changes.map((row) => {
    const is = asIs(row)
    return is === undefined ? row : { ...row, old: is.old, new: is.new, mine: is.mine }
  })
  const changes = [...file.report.changes, ...rows]
  const told = { ...file.report, changes, counts: countsOf(changes, []) }
  const back = (each: Remembered): Remembered => asIs(each) ?? each
  return {
    report: rows.length === 0 ? file.report : told,
    bytes: rows.length === 0 ? bytes : result,
    recalled: {
      applied: (recalled?.applied ?? []).map(back),
      earlier: (recalled?.earlier ?? []).map(back),
      notApplied: (recalled?.notApplied ?? []).map((each) => ({
        ...each,
        decision: back(each.decision),
      })),
    },
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
