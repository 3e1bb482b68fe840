import { readFileSync, readlinkSync } from 'node:fs'
import { basename } from 'node:path'
import picomatch from 'picomatch'
import { pick, pickSide } from '../core/carry/pick.ts'
import type { CarryReport, LocatedProblem } from '../core/carry/report.ts'
import { countsOf } from '../core/carry/report.ts'
import type { FormatName } from '../core/formats/index.ts'
import type { Triple } from '../core/identity/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, triple } from '../core/identity/sides.ts'
import { carryFile } from './carry-file.ts'
import type { Config, FileRule } from './config.ts'
import { Failure, systemFailure } from './failure.ts'
import type { CarryPaths } from './input-paths.ts'
import { isNoOld, kindOfInputs, refuseOverlap } from './input-paths.ts'
import { clashReport, kindClashes } from './kind-clash.ts'
import type { FileSystem, ResultWriter } from './output.ts'
import { NO_OUTPUT, Output } from './output.ts'
import type { TreeEntry } from './tree.ts'
import { readTree } from './tree.ts'

export interface CarryRequest {
  paths: CarryPaths
  config: Config
  format?: FormatName
  replace: boolean
  /** Whether nothing is written: the report is a forecast. */
  dryRun?: boolean
  /** Told after each file: how many are done, of how many. */
  progress?: (done: number, total: number) => void
  /** Ends the run between two files, with nothing left behind. */
  signal?: AbortSignal
  disk?: FileSystem
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
    await output.commit()
    return { report, kind }
  } catch (error) {
    await output.discard()
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
  })
  if (carried.bytes !== undefined) await output.file('', carried.bytes)
  return { files: [carried.report], problems: [] }
}

async function carryFolders(request: CarryRequest, output: ResultWriter): Promise<CarryReport> {
  const { paths } = request
  const trees = [
    isNoOld(paths) ? new Map<string, TreeEntry>() : await readTree(paths.old),
    await readTree(paths.new),
    await readTree(paths.mine),
  ] as const
  const clashes = kindClashes(trees)
  const all = [...new Set(trees.flatMap((tree) => [...tree.keys()]))].sort()
  const report: CarryReport = { files: [], problems: [] }
  await output.folder('')
  for (const [done, path] of all.entries()) {
    request.signal?.throwIfAborted()
    const clash = clashes.find(({ root }) => path === root || path.startsWith(`${root}/`))
    const entries = triple((side) =>
      clash === undefined || side === clash.side ? trees[side].get(path) : undefined,
    )
    if (clash !== undefined && path === clash.root && clash.conflict)
      report.files.push(clashReport(clash))
    if (clash === undefined) await carryEntry(request, output, path, entries, report)
    else await copyEntry(output, path, entries[clash.side])
    request.progress?.(done + 1, all.length)
  }
  return report
}

async function carryEntry(
  request: CarryRequest,
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
    if (side !== undefined && !gone) await copyEntry(output, path, entries[side])
    return
  }
  const { bytes, problems } = readAll(path, entries)
  const rule = ruleFor(request.config, path)
  const input = { path, bytes, rule, format: undefined, oldUnknown: isNoOld(request.paths) }
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
    if (kept !== undefined) await output.file(path, kept)
    return
  }
  const carried = await carryFile(input)
  report.files.push(carried.report)
  if (carried.bytes !== undefined)
    await output.file(path, carried.bytes, pick(triple((side) => entries[side]?.mode)))
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

async function copyEntry(
  output: ResultWriter,
  path: string,
  entry: TreeEntry | undefined,
): Promise<void> {
  if (entry === undefined) return
  if (entry.kind === 'link') await output.link(path, readlinkSync(entry.location))
  else if (entry.kind === 'empty-folder') await output.folder(path)
  else if (entry.kind === 'file') await output.file(path, readFileSync(entry.location), entry.mode)
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
