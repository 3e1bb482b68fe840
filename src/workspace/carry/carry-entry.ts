import { pick, pickSide } from '../../core/document/pick.ts'
import type { CarryReport, FileReport, LocatedProblem } from '../../core/report/report.ts'
import { countsOf, fileProblem, fileReport } from '../../core/report/report.ts'
import type { Remembered } from '../../core/report/remembered.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, SIDE_NAMES, triple } from '../../core/document/sides.ts'
import { carryFile } from './carry-file.ts'
import { chooseWhole } from './whole-entry.ts'
import type { Config } from '../config/config.ts'
import { Failure } from '../failure.ts'
import { ruleFor } from '../config/file-rule.ts'
import type { ResultWriter } from './output.ts'
import type { FilePair } from './pair-files.ts'
import type { FileContent, TreeEntry } from '../tree.ts'
import { readContent, readingFailure, targetOf } from '../tree.ts'

/** What holds for all files of a folder. */
export interface FolderContext {
  config: Config
  oldUnknown: boolean
  explain: string | undefined
  /** What told entries apart when they were carried before, by path. */
  identities?: ReadonlyMap<string, ReadonlyMap<string, string>> | undefined
  /** What was decided before, by path. */
  remembered?: ReadonlyMap<string, readonly Remembered[]> | undefined
  /** Whether vanilla has text of one byte a character, whose alphabet no file tells. */
  vanillaIsSingleByte: () => boolean
}

/** Carries what stands at one path of three folders, writes it, and adds to the report. */
export async function carryPair(
  context: FolderContext,
  output: ResultWriter,
  pair: FilePair,
  report: CarryReport,
): Promise<void> {
  const known = report.files.length
  await carryEntry(context, output, pair.path, pair.entries, report)
  const file = report.files[known]
  if (pair.spellings !== undefined) report.problems.push(otherCapitals(pair.path, pair.spellings))
  if (file !== undefined && pair.renamed !== undefined) tellRenamed(file, pair.renamed)
  for (const conflict of file?.conflicts ?? [])
    if (pair.perhaps !== undefined && conflict.key === '')
      conflict.perhaps = { path: pair.perhaps, key: null }
}

function tellRenamed(file: FileReport, { was, by }: NonNullable<FilePair['renamed']>): void {
  file.was = was
  if (file.outcome !== 'conflict' && file.outcome !== 'unread') file.outcome = 'renamed'
  const values = { old: null, new: null, mine: null, result: null }
  file.changes.unshift({ key: '', side: by, kind: 'renamed', was, ...values })
  file.counts = countsOf(file.changes, file.conflicts)
  file.problems.push(
    fileProblem(file.path, {
      severity: 'note',
      code: 'file/taken-for-one',
      message: `taken for one: ${was} is now ${file.path}`,
    }),
  )
}

function otherCapitals(path: string, spellings: readonly string[]): LocatedProblem {
  return fileProblem(path, {
    severity: 'warning',
    code: 'file/other-capitals',
    message: `${spellings.join(' and ')} differ by capitals alone; they are taken for one`,
  })
}

async function carryEntry(
  context: FolderContext,
  output: ResultWriter,
  path: string,
  entries: Triple<TreeEntry | undefined>,
  report: CarryReport,
): Promise<void> {
  const kinds = new Set(entries.flatMap((entry) => (entry === undefined ? [] : [entry.kind])))
  if (kinds.has('other')) {
    report.problems.push(notOpened(path))
    return
  }
  if (kinds.has('link')) {
    const { side, report: file } = chooseWhole(path, entries, context.oldUnknown)
    report.files.push(file)
    if (side !== undefined) copyEntry(output, path, entries[side])
    return
  }
  if (kinds.has('empty-folder')) {
    const side = pickSide(triple((each) => entries[each]?.kind))
    if (side !== undefined && !isDropped(entries)) copyEntry(output, path, entries[side])
    return
  }
  const { contents, problems } = readAll(path, entries)
  const bytes = triple((side) => contents[side]?.bytes)
  const rule = ruleFor(context.config, path)
  const input = {
    path,
    bytes,
    rule,
    format: undefined,
    oldUnknown: context.oldUnknown,
    explain: context.explain,
    remembered: context.remembered?.get(path) ?? [],
    identityBefore: context.identities?.get(path),
    vanillaIsSingleByte: context.vanillaIsSingleByte,
  }
  if (problems.length > 0) {
    report.files.push(fileReport({ path, format: 'other', outcome: 'unread' }, { problems }))
    // what mine has and may not be opened is never replaced by vanilla's
    const kept = entries[MINE] === undefined ? bytes[NEW] : bytes[MINE]
    if (kept !== undefined) output.file(path, kept)
    return
  }
  const carried = await carryFile(input)
  const { recalled } = carried
  report.files.push(recalled === undefined ? carried.report : { ...carried.report, recalled })
  if (carried.bytes !== undefined)
    output.file(path, carried.bytes, pick(triple((side) => contents[side]?.mode)))
}

/** Whether old had it and both dropped it, or one did while the other left it as it was. */
function isDropped(entries: Triple<TreeEntry | undefined>): boolean {
  const [old, fresh, mine] = triple((side) => entries[side]?.kind)
  if (old === undefined) return false
  const isGone = (side: string | undefined): boolean => side === undefined || side === old
  return (fresh === undefined && isGone(mine)) || (mine === undefined && isGone(fresh))
}

/** Copies a file, a link or an empty folder as it is. */
export function copyEntry(output: ResultWriter, path: string, entry: TreeEntry | undefined): void {
  if (entry === undefined) return
  if (entry.kind === 'link') output.link(path, targetOf(entry))
  else if (entry.kind === 'empty-folder') output.folder(path)
  else if (entry.kind === 'file') {
    const { bytes, mode } = readContent(entry.location)
    output.file(path, bytes, mode)
  }
}

function readAll(
  path: string,
  entries: Triple<TreeEntry | undefined>,
): { contents: Triple<FileContent | undefined>; problems: LocatedProblem[] } {
  const problems: LocatedProblem[] = []
  const contents = triple((side) => {
    const entry = entries[side]
    if (entry === undefined) return undefined
    try {
      const content = readContent(entry.location)
      return entry.mode === undefined ? content : { ...content, mode: entry.mode }
    } catch (error) {
      const failure = readingFailure(error, entry.location)
      if (!(failure instanceof Failure)) throw failure
      problems.push({
        severity: 'error',
        code: 'file/unreadable',
        message: failure.message,
        path,
        line: null,
        column: null,
        input: SIDE_NAMES[side],
      })
      return undefined
    }
  })
  return { contents, problems }
}

function notOpened(path: string): LocatedProblem {
  return fileProblem(path, {
    severity: 'warning',
    code: 'file/not-opened',
    message: `${path} is a device, a pipe or a socket; it is not opened and not in the result`,
  })
}
