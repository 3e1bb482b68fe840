import type { CarriedText } from '../core/carry/carry-text.ts'
import { carryText } from '../core/carry/carry-text.ts'
import type { Outcome, Whole } from '../core/carry/file-fate.ts'
import { fileFate } from '../core/carry/file-fate.ts'
import type { Change, Conflict, ConflictKind } from '../core/carry/ledger.ts'
import { conflictId } from '../core/carry/ledger.ts'
import { pick } from '../core/carry/pick.ts'
import type { FileReport, LocatedProblem } from '../core/carry/report.ts'
import { countsOf } from '../core/carry/report.ts'
import type { FormatName } from '../core/formats/index.ts'
import { formatNamed } from '../core/formats/index.ts'
import type { Triple } from '../core/identity/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../core/identity/sides.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import { same } from './file-input.ts'
import type { Decoded, TextForm } from './text-file.ts'
import type { KnownFormat } from './file-format.ts'
import { formatOf } from './file-format.ts'
import { taken } from './take.ts'
import { decode, encode } from './text-file.ts'

/** Carries one file: by key where it has a format, whole where it has none. */
export function carryFile(input: FileInput): CarriedFile {
  const take = input.rule?.take ?? 'merge'
  if (take === 'leave-out')
    return { report: report(input, 'other', 'left-out', [], []), bytes: undefined }
  if (take === 'merge') return merged(input)
  return taken(input, take, merged(input).report)
}

// Whole files

function merged(input: FileInput): CarriedFile {
  const { bytes } = input
  const fate = fileFate(presenceOf(bytes))
  if (fate.do === 'settled') return settled(input, fate.outcome, fate.whole)
  const format = formatOf(input)
  if (fate.do === 'dropped') return dropped(input, fate.by, format)
  const whole =
    fate.do === 'compare'
      ? { outcome: fate.outcome, bytes: wholeBytes(bytes, fate.whole) }
      : undefined
  if (format !== undefined) {
    const byKey = mergedByKey(input, format.name, whole)
    const unreadable = byKey.report.outcome === 'unread'
    if (!unreadable || format.certain) return byKey
  }
  if (whole === undefined) return wholeConflict(input, 'other', 'file')
  const side =
    whole.outcome === 'vanilla'
      ? 'vanilla'
      : bytes[OLD] !== undefined && same(bytes[NEW], bytes[MINE])
        ? 'both'
        : 'mine'
  return {
    report: report(input, 'other', whole.outcome, [wholeRow(side, 'changed')], []),
    bytes: whole.bytes,
  }
}

function settled(input: FileInput, outcome: Outcome, whole: Whole): CarriedFile {
  const [old, fresh, mine] = input.bytes
  const rows: Change[] = []
  if (outcome === 'added') rows.push(wholeRow('vanilla', 'added'))
  else if (outcome === 'removed') {
    const side =
      fresh === undefined && mine === undefined ? 'both' : fresh === undefined ? 'vanilla' : 'mine'
    rows.push(wholeRow(side, 'removed'))
  } else if (outcome === 'mine' && old === undefined)
    rows.push(wholeRow(fresh === undefined ? 'mine' : 'both', 'added'))
  const format = formatOf(input)?.name ?? 'other'
  return { report: report(input, format, outcome, rows, []), bytes: wholeBytes(input.bytes, whole) }
}

/** One side dropped the file and the other changed it: by value, or in its form alone. */
function dropped(
  input: FileInput,
  by: 'vanilla' | 'mine',
  format: KnownFormat | undefined,
): CarriedFile {
  const { bytes } = input
  const kept = by === 'vanilla' ? bytes[MINE] : bytes[NEW]
  if (format !== undefined) {
    const compared = mergedByKey(
      { ...input, bytes: [bytes[OLD], kept, kept] },
      format.name,
      undefined,
    )
    const { outcome, changes } = compared.report
    if (outcome === 'unread' && format.certain) {
      return by === 'vanilla'
        ? compared
        : { report: { ...compared.report, changes: [] }, bytes: kept }
    }
    if (outcome !== 'unread' && changes.length === 0) return settled(input, 'removed', 'none')
  }
  const kind = by === 'vanilla' ? 'gone-in-vanilla' : 'gone-in-mine'
  return wholeConflict(input, format?.name ?? 'other', kind)
}

function wholeConflict(
  input: FileInput,
  format: FormatName | 'other',
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

// By key

interface Decided {
  outcome: Outcome
  bytes: Buffer | undefined
}

function mergedByKey(input: FileInput, name: FormatName, whole: Decided | undefined): CarriedFile {
  const decoded = triple((side) => decodeSide(input.bytes[side]))
  const invalid = SIDES.flatMap((side) =>
    invalidProblem(input.path, decoded[side], SIDE_NAMES[side]),
  )
  const unread = input.bytes[MINE] ?? input.bytes[NEW]
  if (invalid.length > 0)
    return {
      report: { ...report(input, name, 'unread', [], []), problems: invalid },
      bytes: unread,
    }
  const texts = triple((side) => textOf(decoded[side]))
  const identity = new Map(Object.entries(input.rule?.identity ?? {}))
  const carried = carryText(texts, { format: formatNamed(name), path: input.path, identity })
  if (carried.text === undefined) {
    return {
      report: { ...report(input, name, 'unread', [], []), problems: carried.problems },
      bytes: unread,
    }
  }
  const bytes = whole?.bytes ?? encode(carried.text, pickForm(decoded))
  const outcome = whole?.outcome ?? outcomeOf(carried, bytes, input.bytes)
  return {
    report: {
      ...report(input, name, outcome, carried.changes, carried.conflicts),
      problems: carried.problems,
    },
    bytes,
  }
}

function outcomeOf(
  carried: CarriedText,
  bytes: Buffer,
  inputs: Triple<Buffer | undefined>,
): Outcome {
  if (carried.conflicts.length > 0) return 'conflict'
  if (same(bytes, inputs[MINE])) return 'mine'
  return same(bytes, inputs[NEW]) ? 'vanilla' : 'merged'
}

function decodeSide(bytes: Buffer | undefined): Decoded | undefined {
  return bytes === undefined ? undefined : decode(bytes)
}

function textOf(decoded: Decoded | undefined): string | undefined {
  return decoded !== undefined && 'text' in decoded ? decoded.text : undefined
}

function pickForm(decoded: Triple<Decoded | undefined>): TextForm {
  const forms = triple((side) => {
    const each = decoded[side]
    return each !== undefined && 'form' in each ? each.form : undefined
  })
  const encoding = pick(triple((side) => forms[side]?.encoding)) ?? 'utf-8'
  const bom = pick(triple((side) => forms[side]?.bom)) ?? false
  return { encoding, bom: encoding === 'utf-8' ? bom : true }
}

function invalidProblem(
  path: string,
  decoded: Decoded | undefined,
  input: (typeof SIDE_NAMES)[number],
): LocatedProblem[] {
  if (decoded === undefined || !('invalid' in decoded)) return []
  const { line, column, text, byte } = decoded.invalid
  return [
    {
      severity: 'error',
      code: 'text/not-utf-8',
      message: `byte ${byte + 1} of the file is no UTF-8 text`,
      path,
      line,
      column,
      input,
      text,
      width: 1,
      hint: 'save the file as UTF-8; other encodings without a byte order mark are not read yet',
    },
  ]
}

/** A report of one file, without problems. */
function report(
  input: FileInput,
  format: FormatName | 'other',
  outcome: Outcome,
  changes: Change[],
  conflicts: Conflict[],
): FileReport {
  return {
    path: input.path,
    format,
    outcome,
    counts: countsOf(changes, conflicts),
    changes,
    conflicts,
    problems: [],
  }
}
