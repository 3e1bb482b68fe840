import { basename } from 'node:path'
import type { Finding } from '../../core/report/finding.ts'
import type { CarryReport } from '../../core/report/report.ts'
import type { FormatName } from '../../core/formats/index.ts'
import { OLD, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import type { Config } from '../config/config.ts'
import { heldAgainst } from '../config/held-against.ts'
import { ruleFor } from '../config/file-rule.ts'
import type { DiskCalls } from '../io/disk.ts'
import type { Workspace } from '../workspace.ts'
import { refuseAbsent } from './absent-files.ts'
import type { SingleJob } from './carry-aside.ts'
import { carryAside, carrySingleFile } from './carry-aside.ts'
import type { CarryRun } from './carry-trees.ts'
import { carryTrees, isAside } from './carry-trees.ts'
import type { CarryPaths } from './input-paths.ts'
import { isNoOld, refuseOverlap } from './input-paths.ts'
import { inputsAlike } from './inputs-alike.ts'
import type { CarryInputs } from './open-inputs.ts'
import { openInputs } from './open-inputs.ts'
import type { ResultWriter } from './output.ts'
import { NO_OUTPUT, Output } from './output.ts'

export interface CarryRequest extends CarryRun {
  paths: CarryPaths
  config: Config
  /** The workspace whose releases can be named. */
  workspace?: Workspace | undefined
  /** Vanilla's files where new holds changed files only. */
  onto?: string | undefined
  /** Whether the result has the files that mine has, and no others. */
  sparse?: boolean
  /** Whether inputs that lack much of what old has are refused. */
  refusesAbsent?: boolean
  format?: FormatName
  replace: boolean
  /** Whether nothing is written: the report is a forecast. */
  dryRun?: boolean
  /** A key that is to be explained. */
  explain?: string | undefined
  /** Shown the report before anything is written; what it throws ends the run with nothing left behind. */
  beforeWritten?: (report: CarryReport) => void
  disk?: DiskCalls
}

export interface CarryDone {
  report: CarryReport
  kind: 'file' | 'folder'
}

/** Carries three files or three folders, and writes the result whole or not at all. */
export async function carryPaths(request: CarryRequest): Promise<CarryDone> {
  const { paths, workspace, onto, signal } = request
  const inputs = await openInputs(paths, { workspace, onto, signal })
  try {
    const output = request.dryRun === true ? NO_OUTPUT : await prepare(request, inputs)
    try {
      const report =
        inputs.kind === 'file'
          ? await carrySingle(request, output)
          : await carryFolders(request, inputs, output)
      report.findings = await brokenIn(request, inputs, report, output)
      report.problems.unshift(...inputs.notes)
      if (!isNoOld(paths)) report.problems.unshift(...inputsAlike(report))
      request.signal?.throwIfAborted()
      request.beforeWritten?.(report)
      output.commit()
      return { report, kind: inputs.kind }
    } catch (error) {
      output.discard()
      throw error
    }
  } finally {
    await inputs.close()
  }
}

/** What two sides broke together; without old nothing is known of that. */
async function brokenIn(
  { paths, config }: CarryRequest,
  inputs: CarryInputs,
  report: CarryReport,
  { location }: ResultWriter,
): Promise<readonly Finding[]> {
  if (isNoOld(paths)) return []
  const { findBrokenTogether } = await import('../check/broken-together.ts')
  const path = basename(paths.out)
  const single = triple(
    (side) => new Map([[path, { kind: 'file' as const, location: paths[SIDE_NAMES[side]] }]]),
  )
  const trees = inputs.kind === 'file' ? single : inputs.trees
  return findBrokenTogether(report, { trees, config, location })
}

async function prepare(
  { paths, replace, disk }: CarryRequest,
  { onDisk }: CarryInputs,
): Promise<Output> {
  await refuseOverlap(paths, onDisk)
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

async function carryFolders(
  request: CarryRequest,
  { trees, closed }: Extract<CarryInputs, { kind: 'folder' }>,
  output: ResultWriter,
): Promise<CarryReport> {
  const { paths, config, onto, sparse = false, explain, progress, signal, crew } = request
  const oldUnknown = isNoOld(paths)
  const said = {
    isVariant: false,
    sparse,
    onto: onto !== undefined,
    yes: request.refusesAbsent !== true,
    oldUnknown,
  }
  refuseAbsent(trees, config, said)
  const how = { config, oldUnknown, sparse, explain, progress, signal, crew }
  return carryTrees({ trees, closed, ...how }, output)
}
