import { carryDecided } from '../../core/carry/carry-decided.ts'
import type { Recalled, Remembered } from '../../core/report/remembered.ts'
import type { CarriedText } from '../../core/carry/carry-text.ts'
import { carryText } from '../../core/carry/carry-text.ts'
import type { Outcome } from '../../core/report/file-fate.ts'
import type { LocatedProblem } from '../../core/report/report.ts'
import { FAULT, fileProblem, fileReport } from '../../core/report/report.ts'
import { keyInFile } from '../../core/keys/file-key.ts'
import { isPlainPath } from '../../core/formats/detect.ts'
import { formatNamed } from '../../core/formats/index.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { MINE, NEW } from '../../core/document/sides.ts'
import { carryLines, carryLinesDecided } from '../../core/lines/carry-lines.ts'
import { DecodedInputs } from './decode-inputs.ts'
import { dialectOfRule } from '../config/format-rule.ts'
import type { KnownFormat } from '../content/file-format.ts'
import { Failure } from '../failure.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import type { TextForm } from '../content/text-file.ts'
import { encode } from '../content/text-file.ts'

/** What is known of the result before the content is looked at. */
export interface Decided {
  outcome: Outcome
  bytes: Buffer | undefined
}

/**
 * Merges the content of a file by key, or by lines where it is plain text.
 *
 * @param isLast whether nobody needs the input's bytes afterwards: then they are not kept beside their texts
 */
export function mergeContent(
  input: FileInput,
  format: KnownFormat['name'],
  decided: Decided | undefined,
  isLast = false,
): CarriedFile {
  const decoded = new DecodedInputs(input)
  if (decoded.problems.length > 0) return unread(input, format, decoded.problems)
  if (isLast && decoded.isUtf8) input.bytes = [undefined, undefined, undefined]
  const { texts } = decoded
  const content = attempted(input, () =>
    format === 'text' ? byLines(texts, input) : byKey(texts, input, format),
  )
  if ('fault' in content) return unread(decoded.restored(input), format, [content.fault])
  const { carried, recalled } = content
  if (carried.text === undefined) return unread(decoded.restored(input), format, carried.problems)
  const { form, warnings } = decoded.formFor(carried.text, format)
  // what was decided for its keys makes a file another than the one that would be taken as a whole
  const whole = (recalled?.applied.length ?? 0) > 0 ? undefined : decided
  const bytes = whole?.bytes ?? encode(carried.text, form, format === 'text' ? undefined : format)
  const outcome = whole?.outcome ?? outcomeOf(carried, decoded, form)
  const { changes, conflicts, dialect, identities, explained } = carried
  const isUnknown = format === 'text' && whole === undefined && !isPlainPath(input.path)
  const report = fileReport(
    { path: input.path, format, outcome },
    {
      changes,
      conflicts,
      problems: [...carried.problems, ...warnings, ...(isUnknown ? [mergedByLines(input)] : [])],
      reading: { encoding: form.encoding, dialect, identities },
      ...(explained === undefined ? {} : { explained }),
    },
  )
  return recalled === undefined ? { report, bytes } : { report, bytes, recalled }
}

/** What is said of a file that both changed and that no format fits. */
function mergedByLines({ path }: FileInput): LocatedProblem {
  return fileProblem(path, {
    severity: 'note',
    code: 'file/by-lines',
    message: 'no format fits this file, so its lines were merged',
  })
}

interface Content {
  carried: CarriedText
  recalled?: Recalled
}

/** What a merge comes to; a fault of the program in one file leaves the others as they are. */
function attempted({ path }: FileInput, merge: () => Content): Content | { fault: LocatedProblem } {
  try {
    return merge()
  } catch (error) {
    if (error instanceof Failure) throw error
    const what = error instanceof Error ? error.message : String(error)
    const fault = fileProblem(path, {
      severity: 'error',
      code: FAULT,
      message: `a fault of anagnosis: the three files could not be put together (${what})`,
      hint: 'merge this file by hand, and please report it with the three files',
    })
    return { fault }
  }
}

/** What was decided for keys of a file, and not for all of it. */
function keyed({ remembered = [] }: FileInput): readonly Remembered[] {
  return remembered.filter(({ key }) => key !== '')
}

function byKey(
  texts: Triple<string | undefined>,
  input: FileInput,
  format: Exclude<KnownFormat['name'], 'text'>,
): Content {
  const { identity = {}, order = {}, list = {}, together = [] } = input.rule ?? {}
  const options = {
    format: formatNamed(format),
    path: input.path,
    identity: new Map(Object.entries(identity)),
    identityBefore: input.identityBefore,
    ordered: new Set(Object.keys(order)),
    lists: new Map(Object.entries(list)),
    dialect: dialectOfRule(input.rule?.format),
    together,
    everyDifference: input.oldUnknown === true,
    inspect: input.inspect,
    onlyReport: input.onlyReport === true,
    explain: keyIn(input),
  }
  const remembered = keyed(input)
  return remembered.length === 0
    ? { carried: carryText(texts, options) }
    : carryDecided(texts, options, remembered)
}

/** The key that is to be explained, where it can be one of this file. */
export function keyIn({ explain, path }: FileInput): string | undefined {
  if (explain === undefined) return undefined
  return keyInFile(path, explain)
}

function byLines([old, fresh, mine]: Triple<string | undefined>, input: FileInput): Content {
  const texts: Triple<string> = [old ?? '', fresh ?? '', mine ?? '']
  const remembered = keyed(input)
  return remembered.length === 0
    ? { carried: carryLines(texts, input.path) }
    : carryLinesDecided(texts, input.path, remembered)
}

/** Mine's bytes are in the result, new's where mine has none; nothing is said of keys. */
function unread(
  input: FileInput,
  format: KnownFormat['name'],
  problems: LocatedProblem[],
): CarriedFile {
  const report = fileReport({ path: input.path, format, outcome: 'unread' }, { problems })
  return { report, bytes: input.bytes[MINE] ?? input.bytes[NEW] }
}

function outcomeOf(carried: CarriedText, decoded: DecodedInputs, form: TextForm): Outcome {
  if (carried.conflicts.length > 0) return 'conflict'
  const isThat = (side: Side): boolean => decoded.isSame(side, carried.text ?? '', form)
  if (isThat(MINE)) return 'mine'
  return isThat(NEW) ? 'vanilla' : 'merged'
}
