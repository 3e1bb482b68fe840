import { statSync } from 'node:fs'
import type { CarryReport, LocatedProblem } from '../../core/report/report.ts'
import type { Remembered } from '../../core/report/remembered.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, triple } from '../../core/document/sides.ts'
import { breathe } from '../breathe.ts'
import type { Config } from '../config/config.ts'
import { heldAgainst } from '../config/held-against.ts'
import type { ClosedFolders, FileTree } from '../tree.ts'
import { capitalsApart } from './capitals-apart.ts'
import { ASIDE_FROM } from './carry-aside.ts'
import { carryPair, copyEntry } from './carry-entry.ts'
import { closedIn, closedReport, withoutClosed } from './closed-folders.ts'
import { carryByCrew, CREW_FROM } from './crew.ts'
import type { FolderJob } from './folder-job.ts'
import { contextOf } from './folder-job.ts'
import type { KindClash } from './kind-clash.ts'
import { clashReport, kindClashes } from './kind-clash.ts'
import type { ResultWriter } from './output.ts'
import type { FilePair } from './pair-files.ts'
import { pairFiles } from './pair-files.ts'

/** How a carry runs: what it is told, and what it tells meanwhile. */
export interface CarryRun {
  /** Told after each file: how many are done, of how many. */
  progress?: ((done: number, total: number) => void) | undefined
  /** Ends the run between two files, with nothing left behind. */
  signal?: AbortSignal | undefined
  /** The script that threads of a crew run; without it all is done in this one. */
  crew?: string | undefined
}

/** Three folders, and how they are carried. */
export interface TreesRequest extends CarryRun {
  trees: Triple<FileTree>
  /** Folders in them that may not be opened. */
  closed?: Triple<ClosedFolders>
  config: Config
  /** Whether there is no old vanilla. */
  oldUnknown: boolean
  /** Whether the result has the files that mine has, and no others. */
  sparse?: boolean | undefined
  explain?: string | undefined
  /** What told entries apart when they were carried before, by path. */
  identities?: ReadonlyMap<string, ReadonlyMap<string, string>> | undefined
  /** What was decided before, by path. */
  remembered?: ReadonlyMap<string, readonly Remembered[]> | undefined
  /** Whether the config is held against the files; it is, but where that was done before. */
  holdsConfig?: boolean
  /** Whether files that are left out are in none of the trees. */
  hasNoLeftOut?: boolean
  /** Which paths of the result are carried; all by default. */
  isMeant?: ((path: string) => boolean) | undefined
}

/** Carries three folders file by file into an output. */
export async function carryTrees(
  request: TreesRequest,
  output: ResultWriter,
): Promise<CarryReport> {
  const shut = closedIn(request.closed ?? triple(() => new Map()))
  const trees = withoutClosed(request.trees, shut)
  const clashes = kindClashes(trees)
  const isIn = (path: string): KindClash | undefined =>
    clashes.find(({ root }) => path === root || path.startsWith(`${root}/`))
  const pairs = pairFiles(
    triple((side) => new Map([...trees[side]].filter(([path]) => isIn(path) === undefined))),
  )
  const problems = held(request, trees)
  const report: CarryReport = { files: shut.map(closedReport), problems }
  output.folder('')
  for (const clash of clashes) carryClash(output, clash, trees[clash.side], report)
  for (const problem of capitalsApart(trees)) report.problems.push(problem)
  const { isMeant = () => true, sparse = false } = request
  const meant = pairs.filter(
    ({ path, entries }) => isMeant(path) && (!sparse || entries[MINE] !== undefined),
  )
  await carryPairs(request, output, meant, report)
  report.files.sort((one, other) => (one.path < other.path ? -1 : 1))
  return report
}

/** What of the config fits nothing, among the rules that are for files which are there. */
function held(
  { config, holdsConfig = true, hasNoLeftOut = false }: TreesRequest,
  trees: Triple<FileTree>,
): LocatedProblem[] {
  if (!holdsConfig) return []
  const rules = config.files?.filter(({ take }) => !hasNoLeftOut || take !== 'leave-out')
  const meant = rules === undefined ? config : { ...config, files: rules }
  return heldAgainst(meant, trees.map(filesOf))
}

function filesOf(tree: FileTree): Map<string, string> {
  return new Map(
    [...tree]
      .filter(([, { kind }]) => kind === 'file')
      .map(([path, { location }]) => [path, location]),
  )
}

/** Whether a file is so big that it is carried in another thread. */
export function isAside(location: string): boolean {
  return (statSync(location, { throwIfNoEntry: false })?.size ?? 0) >= ASIDE_FROM
}

/** What is big is so in all inputs, mostly: one of them tells. */
function hasBigFile({ entries }: FilePair): boolean {
  const entry = entries[MINE] ?? entries[NEW]
  return entry?.kind === 'file' && isAside(entry.location)
}

/** Carries all pairs: with a crew of threads where there are many, else one after the other. */
async function carryPairs(
  request: TreesRequest,
  output: ResultWriter,
  pairs: readonly FilePair[],
  report: CarryReport,
): Promise<void> {
  const { config, oldUnknown, explain, remembered, identities } = request
  const { signal, progress, crew } = request
  const folder = output.location
  const job: FolderJob = { config, oldUnknown, explain, remembered, identities, folder }
  const staysFree = crew !== undefined && pairs.some(hasBigFile)
  if (crew !== undefined && (staysFree || pairs.length >= CREW_FROM)) {
    await carryByCrew({ entry: crew, job, pairs, output, report, signal, progress, staysFree })
    return
  }
  const context = contextOf(job, pairs)
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
