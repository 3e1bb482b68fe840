import type { CarriedText } from '../core/carry/carry-text.ts'
import { carryText } from '../core/carry/carry-text.ts'
import type { Outcome } from '../core/carry/file-fate.ts'
import { pick } from '../core/carry/pick.ts'
import type { FileReport, LocatedProblem } from '../core/carry/report.ts'
import { countsOf } from '../core/carry/report.ts'
import { formatNamed } from '../core/formats/index.ts'
import type { Triple } from '../core/identity/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../core/identity/sides.ts'
import { carryLines } from '../core/lines/carry-lines.ts'
import type { KnownFormat } from './file-format.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import { same } from './file-input.ts'
import type { Decoded, TextForm } from './text-file.ts'
import { decode, encode, isPlainAscii, isSingleByte } from './text-file.ts'

/** What is known of the result before the content is looked at. */
export interface Decided {
  outcome: Outcome
  bytes: Buffer | undefined
}

/** Merges the content of a file by key, or by lines where it is plain text. */
export function mergeContent(
  input: FileInput,
  format: KnownFormat['name'],
  decided: Decided | undefined,
): CarriedFile {
  const decoded = decodeAll(input.bytes)
  const problems = SIDES.flatMap((side) =>
    invalidProblem(input.path, decoded[side], SIDE_NAMES[side]),
  )
  if (problems.length > 0) return unread(input, format, problems)
  const texts = triple((side) => textOf(decoded[side]))
  const carried = format === 'text' ? byLines(texts, input) : byKey(texts, input, format)
  if (carried.text === undefined) return unread(input, format, carried.problems)
  const form = pickForm(decoded)
  const bytes = decided?.bytes ?? encode(carried.text, form, format === 'text' ? undefined : format)
  const outcome = decided?.outcome ?? outcomeOf(carried, bytes, input.bytes)
  const { changes, conflicts } = carried
  const report: FileReport = {
    path: input.path,
    format,
    outcome,
    counts: countsOf(changes, conflicts),
    changes,
    conflicts,
    problems: carried.problems,
    reading: { encoding: form.encoding, dialect: carried.dialect, identities: carried.identities },
  }
  return { report, bytes }
}

function byKey(
  texts: Triple<string | undefined>,
  input: FileInput,
  format: Exclude<KnownFormat['name'], 'text'>,
): CarriedText {
  const { identity = {}, order = {}, list = {} } = input.rule ?? {}
  return carryText(texts, {
    format: formatNamed(format),
    path: input.path,
    identity: new Map(Object.entries(identity)),
    ordered: new Set(Object.keys(order)),
    lists: new Map(Object.entries(list)),
    everyDifference: input.oldUnknown === true,
    explain: input.explain?.replace(`${input.path}:`, '').trim(),
  })
}

function byLines([old, fresh, mine]: Triple<string | undefined>, input: FileInput): CarriedText {
  return carryLines([old ?? '', fresh ?? '', mine ?? ''], input.path)
}

/** Mine's bytes are in the result, new's where mine has none; nothing is said of keys. */
function unread(
  input: FileInput,
  format: KnownFormat['name'],
  problems: LocatedProblem[],
): CarriedFile {
  const report: FileReport = {
    path: input.path,
    format,
    outcome: 'unread',
    counts: countsOf([], []),
    changes: [],
    conflicts: [],
    problems,
  }
  return { report, bytes: input.bytes[MINE] ?? input.bytes[NEW] }
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

/**
 * The texts of all inputs. Bytes that are no UTF-8 and do not say what they are can be carried as they
 * are where all inputs are so (or plain ASCII): which letters they mean need not be known then.
 */
function decodeAll(bytes: Triple<Buffer | undefined>): Triple<Decoded | undefined> {
  const vanilla = [bytes[OLD], bytes[NEW]].some((each) => each !== undefined && isSingleByte(each))
  const agree = bytes.every(
    (each) => each === undefined || isSingleByte(each) || isPlainAscii(each),
  )
  const singleByte = vanilla && agree
  return triple((side) => {
    const each = bytes[side]
    return each === undefined ? undefined : decode(each, singleByte)
  })
}

function textOf(decoded: Decoded | undefined): string | undefined {
  return decoded !== undefined && 'text' in decoded ? decoded.text : undefined
}

function pickForm(decoded: Triple<Decoded | undefined>): TextForm {
  const forms = triple((side) => {
    const each = decoded[side]
    return each !== undefined && 'form' in each ? each.form : undefined
  })
  if (forms.some((form) => form?.encoding === 'latin1')) return { encoding: 'latin1', bom: false }
  const encoding = pick(triple((side) => forms[side]?.encoding)) ?? 'utf-8'
  const bom = pick(triple((side) => forms[side]?.bom)) ?? false
  return { encoding, bom: encoding === 'utf-8' ? bom : encoding.startsWith('utf-16') }
}

function invalidProblem(
  path: string,
  decoded: Decoded | undefined,
  input: (typeof SIDE_NAMES)[number],
): LocatedProblem[] {
  if (decoded === undefined || !('invalid' in decoded)) return []
  const { line, column, text, byte, encoding } = decoded.invalid
  const isUtf8 = encoding === 'utf-8'
  return [
    {
      severity: 'error',
      code: isUtf8 ? 'text/not-utf-8' : 'text/not-as-declared',
      message: isUtf8
        ? `byte ${byte + 1} of the file is no UTF-8 text`
        : `the file says that it is ${encoding}, and is not, or that is not known here`,
      path,
      line: isUtf8 ? line : 1,
      column: isUtf8 ? column : 1,
      input,
      text: isUtf8 ? text : '',
      width: 1,
      hint: 'save the file as UTF-8, or in the encoding that vanilla has',
    },
  ]
}
