import { extname, join } from 'node:path'
import type { FORMAT_NAMES } from '../core/formats/index.ts'
import type { CarryReport } from '../core/report/report.ts'
import { totalCounts } from '../core/report/report.ts'
import { carryJson } from '../show/carry-json.ts'
import { showCarry } from '../show/carry-view.ts'
import { hasKey, nearestKey, showExplanation } from '../show/explain-view.ts'
import type { CommandProblem } from '../show/document-parts.ts'
import type { Paint } from '../show/paint.ts'
import { carryPaths } from '../workspace/carry/carry-paths.ts'
import type { CarryRequest } from '../workspace/carry/carry-paths.ts'
import { exitOf } from '../workspace/carry/exit-of.ts'
import type { CarryPaths } from '../workspace/carry/input-paths.ts'
import type { Config } from '../workspace/config/config.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import { findRoot } from '../workspace/find-root.ts'
import { isSamePath } from '../workspace/paths.ts'
import type { Workspace } from '../workspace/workspace.ts'
import { quoted } from './call.ts'
import type { Progress } from './terminal.ts'

/** What a call of `carry` says. */
export interface CarryFlags {
  to?: string | undefined
  old?: string | undefined
  new?: string | undefined
  mine?: string | undefined
  out?: string | undefined
  onto?: string | undefined
  sparse?: boolean | undefined
  config?: string | undefined
  format?: string | undefined
  explain?: string | undefined
  replace?: boolean | undefined
  'dry-run': boolean
  drop?: boolean | undefined
  all?: boolean | undefined
  yes?: boolean | undefined
  workspace?: string | undefined
  json?: boolean | undefined
}

/** Where a command tells what it did. */
export interface Port {
  paint: Paint
  width: number
  progress: Progress
  signal: AbortSignal
  /** The folder of the program. */
  root: string
  print: (text: string) => void
  /** Tells of deliveries in a workspace that did not come to their end. */
  tell: (workspace: Workspace) => Promise<void>
  printJson: (document: { problems: readonly CommandProblem[] }) => Promise<void>
}

/** Carries three files or three folders. */
export async function carryOnPaths(flags: CarryFlags, port: Port): Promise<void> {
  const dryRun = flags['dry-run']
  const paths = pathsOf(flags)
  const { config, workspace } = await configOf(flags)
  const { progress } = port
  progress.doing(`Carrying ${paths.mine}`)
  const request: CarryRequest = {
    paths,
    config,
    workspace,
    onto: flags.onto,
    sparse: flags.sparse === true || isSparse(workspace, paths.mine),
    refusesAbsent: flags.yes !== true,
    ...(flags.format === undefined
      ? {}
      : { format: flags.format as (typeof FORMAT_NAMES)[number] }), // one of the options
    replace: flags.replace === true,
    dryRun,
    explain: flags.explain,
    beforeWritten: (done) => {
      refuseUnknownKey(done, flags.explain)
    },
    progress: progress.update,
    signal: port.signal,
    crew: crewOf(port),
  }
  const { report, kind } = await carryPaths(request)
  progress.end()
  process.exitCode = exitOf(report)
  const next = nextCommands(report, paths, flags)
  if (flags.json === true) {
    const inputs = { old: paths.old, new: paths.new, mine: paths.mine }
    const call = { dryRun, inputs, out: dryRun ? null : paths.out, next }
    await port.printJson(carryJson(report, call, flags.explain))
  } else if (flags.explain !== undefined)
    port.print(showExplanation(report, flags.explain, port.paint, port.width))
  else {
    const isSingle = kind === 'file'
    const view = { report, paths, next, dryRun, isSingle, all: flags.all === true }
    port.print(showCarry(view, port.paint, port.width))
  }
}

/** The script that threads run. */
export function crewOf({ root }: Port): string {
  return join(root, 'bin', 'crew-member.js')
}

/** @throws Failure where a key is to be explained that no file has */
export function refuseUnknownKey(report: CarryReport, asked: string | undefined): void {
  if (asked === undefined || hasKey(report, asked)) return
  const near = nearestKey(report)
  throw new Failure('call/no-such-key', `no file has the key ${asked}`, {
    exit: EXIT.wrongCall,
    hint: near === undefined ? '--json lists all keys that differ' : `did you mean ${near}?`,
  })
}

/** The paths that a call names. A forecast writes nothing, and names single files as mine does. */
function pathsOf(flags: CarryFlags): CarryPaths {
  const { old, new: fresh, mine, out } = flags
  const missing = (['old', 'new', 'mine'] as const).filter((name) => flags[name] === undefined)
  if (missing.length === 3)
    throw new Failure('call/wrong', 'the call says neither what to carry nor where to', {
      exit: EXIT.wrongCall,
      hint: 'in a workspace: carry --to VERSION; else name --old, --new, --mine and --out',
    })
  if (old === undefined || fresh === undefined || mine === undefined)
    throw new Failure(
      'call/wrong',
      `the call lacks ${missing.map((name) => `--${name}`).join(', ')}`,
      { exit: EXIT.wrongCall, hint: 'run the command with --help to see an example' },
    )
  if (out !== undefined || flags['dry-run']) return { old, new: fresh, mine, out: out ?? mine }
  throw new Failure('call/wrong', 'the call lacks --out', {
    exit: EXIT.wrongCall,
    hint: 'say where the result goes, or --dry-run for a forecast',
  })
}

/** The config that holds, and the workspace around; both are read with packages that no other call needs. */
async function configOf(
  flags: CarryFlags,
): Promise<{ config: Config; workspace: Workspace | undefined }> {
  const root = flags.workspace ?? findRoot(process.cwd())
  const workspace =
    root === undefined
      ? undefined
      : await (await import('../workspace/workspace.ts')).openWorkspace(root)
  if (flags.config === undefined) return { config: workspace?.config ?? {}, workspace }
  const { readConfig } = await import('../workspace/config/config.ts')
  return { config: await readConfig(flags.config), workspace }
}

/** Whether mine is the live folder of a variant that holds customised files alone. */
function isSparse(workspace: Workspace | undefined, mine: string): boolean {
  return (
    workspace?.variants.some(
      ({ location, sparse }) => sparse === true && isSamePath(mine, location),
    ) ?? false
  )
}

function nextCommands(report: CarryReport, paths: CarryPaths, flags: CarryFlags): string[] {
  const { config, format, onto, sparse, yes, workspace } = flags
  const call = [
    `anagnosis carry --old ${quoted(paths.old)} --new ${quoted(paths.new)} --mine ${quoted(paths.mine)}`,
    ...(onto === undefined ? [] : [`--onto ${quoted(onto)}`]),
    ...(sparse === true ? ['--sparse'] : []),
    ...(config === undefined ? [] : [`--config ${quoted(config)}`]),
    ...(workspace === undefined ? [] : [`--workspace ${quoted(workspace)}`]),
    ...(format === undefined ? [] : [`--format ${format}`]),
    ...(yes === true ? ['--yes'] : []),
  ].join(' ')
  if (flags['dry-run']) return [`${call} --out carried`]
  // a result may have been mended by hand: no call that is proposed writes over one
  const again = `${call} --out ${quoted(anotherOut(paths.out))}`
  const { unread } = totalCounts(report.files)
  return unread > 0 ? [again, `${call} --dry-run --json`] : [`${call} --dry-run --json`]
}

/** The name of a second result beside the first. */
function anotherOut(out: string): string {
  const extension = extname(out)
  return `${out.slice(0, out.length - extension.length)}-2${extension}`
}
