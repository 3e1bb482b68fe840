import { statSync } from 'node:fs'
import { basename } from 'node:path'
import type { CarryReport } from '../../core/report/report.ts'
import type { FormatName } from '../../core/formats/index.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import { carryPair, copyEntry } from './carry-entry.ts'
import type { SingleJob } from './carry-aside.ts'
import { ASIDE_FROM, carryAside, carrySingleFile } from './carry-aside.ts'
import type { Config } from '../config/config.ts'
import { carryByCrew, CREW_FROM } from './crew.ts'
import { ruleFor } from '../config/file-rule.ts'
import type { FolderJob } from './folder-job.ts'
import { contextOf } from './folder-job.ts'
import type { CarryPaths } from './input-paths.ts'
import { isNoOld, kindOfInputs, refuseOverlap } from './input-paths.ts'
import type { KindClash } from './kind-clash.ts'
import { clashReport, kindClashes } from './kind-clash.ts'
import type { ResultWriter } from './output.ts'
import { NO_OUTPUT, Output } from './output.ts'
import type { FilePair } from './pair-files.ts'
import type { ClosedFolders, FileTree, TreeEntry } from '../tree.ts'
import { capitalsApart } from './capitals-apart.ts'
import { heldAgainst } from '../config/held-against.ts'
import { closedIn, closedReport, withoutClosed } from './closed-folders.ts'
import { pairFiles } from './pair-files.ts'
import { breathe } from '../breathe.ts'
import type { DiskCalls } from '../io/disk.ts'
import { readTree } from '../tree.ts'

export interface CarryRequest {
  paths: CarryPaths
  config: Config
  format?: FormatName
  replace: boolean
  /** Whether nothing is written: the report is a forecast. */
  dryRun?: boolean
  /** A key that is to be explained. */
  explain?: string | undefined
  /** Shown the report before anything is written; what it throws ends the run with nothing left behind. */
  beforeWritten?: (report: CarryReport) => void
  /** Told after each file: how many are done, of how many. */
  progress?: (done: number, total: number) => void
  /** Ends the run between two files, with nothing left behind. */
  signal?: AbortSignal
  disk?: DiskCalls
  /** The script that threads of a crew run; without it all is done in this one. */
  crew?: string
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
    request.beforeWritten?.(report)
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
  const located = SIDES.filter((side) => side !== OLD || !oldUnknown).map(
    (side) => new Map([[path, paths[SIDE_NAMES[side]]]]),
  )
  const rule = ruleFor(request.config, path)
  // the other rules of a config are for files that are not carried here
  const config = { ...request.config, files: rule === undefined ? [] : [rule] }
  const problems = heldAgainst(config, located)
  const job: SingleJob = {
    locations: triple((side) => (side === OLD && oldUnknown ? undefined : paths[SIDE_NAMES[side]])),
    path,
    rule,
    format: request.format,
    oldUnknown,
    explain: request.explain,
    result: output.location,
  }
  const isBig = job.locations.some((location) => location !== undefined && isAside(location))
  const report =
    isBig && request.crew !== undefined
      ? await carryAside(request.crew, job, request.signal)
      : await carrySingleFile(job, output)
  return { files: [report], problems }
}

async function carryFolders(request: CarryRequest, output: ResultWriter): Promise<CarryReport> {
  const { paths } = request
  const closed = triple((): ClosedFolders => new Map())
  const found = triple((side) =>
    side === OLD && isNoOld(paths)
      ? new Map<string, TreeEntry>()
      : readTree(paths[SIDE_NAMES[side]], undefined, closed[side]),
  )
  const shut = closedIn(closed)
  const trees = withoutClosed(found, shut)
  const clashes = kindClashes(trees)
  const isIn = (path: string): KindClash | undefined =>
    clashes.find(({ root }) => path === root || path.startsWith(`${root}/`))
  const pairs = pairFiles(
    triple((side) => new Map([...trees[side]].filter(([path]) => isIn(path) === undefined))),
  )
  const problems = heldAgainst(request.config, trees.map(filesOf))
  const report: CarryReport = { files: shut.map(closedReport), problems }
  output.folder('')
  for (const clash of clashes) carryClash(output, clash, trees[clash.side], report)
  for (const problem of capitalsApart(trees)) report.problems.push(problem)
  await carryPairs(request, output, pairs, report)
  report.files.sort((one, other) => (one.path < other.path ? -1 : 1))
  return report
}

function filesOf(tree: FileTree): Map<string, string> {
  return new Map(
    [...tree]
      .filter(([, { kind }]) => kind === 'file')
      .map(([path, { location }]) => [path, location]),
  )
}

/** Whether a file is so big that it is carried in another thread. */
function isAside(location: string): boolean {
  return (statSync(location, { throwIfNoEntry: false })?.size ?? 0) >= ASIDE_FROM
}

/** What is big is so in all inputs, mostly: one of them tells. */
function hasBigFile({ entries }: FilePair): boolean {
  const entry = entries[MINE] ?? entries[NEW]
  return entry?.kind === 'file' && isAside(entry.location)
}

/** Carries all pairs: with a crew of threads where there are many, else one after the other. */
async function carryPairs(
  request: CarryRequest,
  output: ResultWriter,
  pairs: readonly FilePair[],
  report: CarryReport,
): Promise<void> {
  const job: FolderJob = {
    config: request.config,
    oldUnknown: isNoOld(request.paths),
    explain: request.explain,
    vanilla: isNoOld(request.paths) ? [request.paths.new] : [request.paths.old, request.paths.new],
    folder: output.location,
  }
  const { signal, progress } = request
  const { crew } = request
  const staysFree = crew !== undefined && pairs.some(hasBigFile)
  if (crew !== undefined && (staysFree || pairs.length >= CREW_FROM)) {
    await carryByCrew({ entry: crew, job, pairs, output, report, signal, progress, staysFree })
    return
  }
  const context = contextOf(job)
  for (const [done, pair] of pairs.entries()) {
    await breathe()
    signal?.throwIfAborted()
    await carryPair(context, output, pair, report)
    progress?.(done + 1, pairs.length)
  }
}

/** A file here and a folder there: what was chosen is there as a whole. */
function carryClash(
  output: ResultWriter,
  clash: KindClash,
  tree: FileTree,
  report: CarryReport,
): void {
  report.files.push(clashReport(clash))
  for (const [path, entry] of tree) {
    if (path === clash.root || path.startsWith(`${clash.root}/`)) copyEntry(output, path, entry)
  }
}
