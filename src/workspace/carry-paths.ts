import { readFileSync, readlinkSync } from 'node:fs'
import { basename } from 'node:path'
import picomatch from 'picomatch'
import { pick, pickSide } from '../core/carry/pick.ts'
import type { CarryReport, FileReport, LocatedProblem } from '../core/carry/report.ts'
import { countsOf } from '../core/carry/report.ts'
import type { FormatName } from '../core/formats/index.ts'
import type { Triple } from '../core/identity/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, triple } from '../core/identity/sides.ts'
import { carryFile } from './carry-file.ts'
import type { Config, FileRule } from './config.ts'
import { Failure, systemFailure } from './failure.ts'
import type { CarryPaths } from './input-paths.ts'
import { isNoOld, kindOfInputs, refuseOverlap } from './input-paths.ts'
import type { KindClash } from './kind-clash.ts'
import { clashReport, kindClashes } from './kind-clash.ts'
import type { FileSystem, ResultWriter } from './output.ts'
import { NO_OUTPUT, Output } from './output.ts'
import type { FilePair } from './pair-files.ts'
import { pairFiles } from './pair-files.ts'
import type { TreeEntry } from './tree.ts'
import { isSingleByte } from './text-file.ts'
import { readTree } from './tree.ts'

export interface CarryRequest {
  paths: CarryPaths
  config: Config
  format?: FormatName
  replace: boolean
  /** Whether nothing is written: the report is a forecast. */
  dryRun?: boolean
  /** A key that is to be explained. */
  explain?: string | undefined
  /** Told after each file: how many are done, of how many. */
  progress?: (done: number, total: number) => void
  /** Ends the run between two files, with nothing left behind. */
  signal?: AbortSignal
  disk?: FileSystem
}

/** A request on folders, with what their files tell of each other. */
interface FolderRequest extends CarryRequest {
  vanillaIsSingleByte: () => boolean
}

export interface CarryDone {
  report: CarryReport
  kind: 'file' | 'folder'
}

/** Carries three files or three folders, and writes the result whole or not at all. */
export async function carryPaths(request: CarryRequest): Promise<CarryDone> {
  const { paths } = request
  const kind = await kindOfInputs(paths)
  const output = request.dryRun === true ? NO_OUTPUT : await prepare(request)
  try {
    const report =
      kind === 'file' ? await carrySingle(request, output) : await carryFolders(request, output)
    request.signal?.throwIfAborted()
    output.commit()
    return { report, kind }
  } catch (error) {
    output.discard()
    throw error
  }
}

async function prepare({ paths, replace, disk }: CarryRequest): Promise<Output> {
  await refuseOverlap(paths)
  return Output.prepare(paths.out, replace, disk)
}

async function carrySingle(request: CarryRequest, output: ResultWriter): Promise<CarryReport> {
  const { paths } = request
  const path = basename(paths.out)
  const oldUnknown = isNoOld(paths)
  const bytes = triple((side) => {
    if (side === OLD && oldUnknown) return undefined
    try {
      return readFileSync(paths[SIDE_NAMES[side]])
    } catch (error) {
      throw systemFailure(error, 'Reading', paths[SIDE_NAMES[side]])
    }
  })
  const carried = await carryFile({
    path,
    bytes,
    rule: ruleFor(request.config, path),
    format: request.format,
    oldUnknown,
    explain: request.explain,
  })
  if (carried.bytes !== undefined) output.file('', carried.bytes)
  return { files: [carried.report], problems: [] }
}

async function carryFolders(request: CarryRequest, output: ResultWriter): Promise<CarryReport> {
  const { paths } = request
  const trees = [
    isNoOld(paths) ? new Map<string, TreeEntry>() : readTree(paths.old),
    readTree(paths.new),
    readTree(paths.mine),
  ] as const
  const clashes = kindClashes(trees)
  const isIn = (path: string): KindClash | undefined =>
    clashes.find(({ root }) => path === root || path.startsWith(`${root}/`))
  const pairs = pairFiles(
    triple((side) => new Map([...trees[side]].filter(([path]) => isIn(path) === undefined))),
  )
  const report: CarryReport = { files: [], problems: [] }
  const run = { ...request, vanillaIsSingleByte: once(() => hasSingleByte(trees)) }
  output.folder('')
  for (const clash of clashes) carryClash(output, clash, trees[clash.side], report)
  for (const [done, pair] of pairs.entries()) {
    await breathe()
    request.signal?.throwIfAborted()
    await carryPair(run, output, pair, report)
    request.progress?.(done + 1, pairs.length)
  }
  report.files.sort((one, other) => (one.path < other.path ? -1 : 1))
  return report
}

let lastBreath = 0

/** Lets signals in now and then: all work on files is done in one go. */
async function breathe(): Promise<void> {
  const now = performance.now()
  if (now - lastBreath < 50) return
  await new Promise(setImmediate)
  lastBreath = performance.now()
}

/** A question that is answered when it is first asked, and once. */
function once(ask: () => boolean): () => boolean {
  let answer: boolean | undefined
  return () => (answer ??= ask())
}

/** Whether vanilla has text of one byte a character, whose alphabet no file tells. */
function hasSingleByte([old, fresh]: readonly ReadonlyMap<string, TreeEntry>[]): boolean {
  const entries = [...(old?.values() ?? []), ...(fresh?.values() ?? [])]
  return entries.some(({ kind, location }) => {
    if (kind !== 'file') return false
    try {
      return isSingleByte(readFileSync(location))
    } catch {
      return false // a file that cannot be read tells nothing here; it is named where it is carried
    }
  })
}

/** A file here and a folder there: what was chosen is there as a whole. */
function carryClash(
  output: ResultWriter,
  clash: KindClash,
  tree: ReadonlyMap<string, TreeEntry>,
  report: CarryReport,
): void {
  if (clash.conflict) report.files.push(clashReport(clash))
  for (const [path, entry] of tree) {
    if (path === clash.root || path.startsWith(`${clash.root}/`)) copyEntry(output, path, entry)
  }
}

async function carryPair(
  request: FolderRequest,
  output: ResultWriter,
  pair: FilePair,
  report: CarryReport,
): Promise<void> {
  const known = report.files.length
  await carryEntry(request, output, pair.path, pair.entries, report)
  const file = report.files[known]
  if (pair.spellings !== undefined) report.problems.push(otherCapitals(pair.path, pair.spellings))
  if (file !== undefined && pair.renamed !== undefined) tellRenamed(file, pair.renamed)
}

function tellRenamed(file: FileReport, { was, by }: NonNullable<FilePair['renamed']>): void {
  file.was = was
  if (file.outcome !== 'conflict' && file.outcome !== 'unread') file.outcome = 'renamed'
  const values = { old: null, new: null, mine: null, result: null }
  file.changes.unshift({ key: '', side: by, kind: 'renamed', was, ...values })
  file.counts = countsOf(file.changes, file.conflicts)
}

function otherCapitals(path: string, spellings: readonly string[]): LocatedProblem {
  return {
    severity: 'warning',
    code: 'file/other-capitals',
    message: `${spellings.join(' and ')} differ by capitals alone; they are taken for one`,
    path,
    line: null,
    column: null,
    input: null,
  }
}

async function carryEntry(
  request: FolderRequest,
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
  if (kinds.has('link') || kinds.has('empty-folder')) {
    const side = pickSide(triple((each) => describe(entries[each])))
    const gone = side !== undefined && isDropped(entries)
    if (side !== undefined && !gone) copyEntry(output, path, entries[side])
    return
  }
  const { bytes, problems } = readAll(path, entries)
  const rule = ruleFor(request.config, path)
  const input = {
    path,
    bytes,
    rule,
    format: undefined,
    oldUnknown: isNoOld(request.paths),
    explain: request.explain,
    vanillaIsSingleByte: request.vanillaIsSingleByte,
  }
  if (problems.length > 0) {
    report.files.push({
      path,
      format: 'other',
      outcome: 'unread',
      counts: countsOf([], []),
      changes: [],
      conflicts: [],
      problems,
    })
    const kept = bytes[MINE] ?? bytes[NEW]
    if (kept !== undefined) output.file(path, kept)
    return
  }
  const carried = await carryFile(input)
  report.files.push(carried.report)
  if (carried.bytes !== undefined)
    output.file(path, carried.bytes, pick(triple((side) => entries[side]?.mode)))
}

/** What a link or an empty folder is, to compare: its kind and where it leads. */
function describe(entry: TreeEntry | undefined): string | undefined {
  if (entry?.kind === 'link') return `link ${readlinkSync(entry.location)}`
  return entry?.kind
}

/** Whether old had it and one side dropped it while the other left it as it was. */
function isDropped(entries: Triple<TreeEntry | undefined>): boolean {
  const [old, fresh, mine] = triple((side) => describe(entries[side]))
  if (old === undefined) return false
  return (fresh === undefined && mine === old) || (mine === undefined && fresh === old)
}

function copyEntry(output: ResultWriter, path: string, entry: TreeEntry | undefined): void {
  if (entry === undefined) return
  if (entry.kind === 'link') output.link(path, readlinkSync(entry.location))
  else if (entry.kind === 'empty-folder') output.folder(path)
  else if (entry.kind === 'file') output.file(path, readFileSync(entry.location), entry.mode)
}

function readAll(
  path: string,
  entries: Triple<TreeEntry | undefined>,
): { bytes: Triple<Buffer | undefined>; problems: LocatedProblem[] } {
  const problems: LocatedProblem[] = []
  const bytes = triple((side) => {
    const entry = entries[side]
    if (entry === undefined) return undefined
    try {
      return readFileSync(entry.location)
    } catch (error) {
      const failure = systemFailure(error, 'Reading', entry.location)
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
  return { bytes, problems }
}

function notOpened(path: string): LocatedProblem {
  return {
    severity: 'warning',
    code: 'file/not-opened',
    message: `${path} is a device, a pipe or a socket; it is not opened and not in the result`,
    path,
    line: null,
    column: null,
    input: null,
  }
}

/** The first rule of the config whose pattern a path matches. */
function ruleFor(config: Config, path: string): FileRule | undefined {
  return config.files?.find((rule) => picomatch.isMatch(path, rule.match, { dot: true }))
}
