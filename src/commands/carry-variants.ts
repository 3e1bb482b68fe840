import type { CarriedVariant, RefusedVariant } from '../core/facts/carried.ts'
import { totalCounts } from '../core/report/report.ts'
import { showExplanation } from '../show/explain-view.ts'
import { variantsJson } from '../show/variants-json.ts'
import { showVariants } from '../show/variants-view.ts'
import { exitOf } from '../workspace/carry/exit-of.ts'
import { openDraft } from '../workspace/draft/draft.ts'
import { dropDraft } from '../workspace/draft/drop.ts'
import type { ExitCode } from '../workspace/failure.ts'
import { asFailure, EXIT, Failure, worstExit } from '../workspace/failure.ts'
import type { MineChoice } from '../workspace/variant/mine.ts'
import { carryVariant } from '../workspace/variant/carry-variant.ts'
import type { Variant, Workspace } from '../workspace/workspace.ts'
import { openWorkspace } from '../workspace/workspace.ts'
import { quoted } from './call.ts'
import type { CarryFlags, Port } from './carry-on-paths.ts'
import { crewOf, refuseUnknownKey } from './carry-on-paths.ts'

/** Carries one variant, or all, into drafts; or drops a draft. */
export async function carryVariants(
  name: string | undefined,
  flags: CarryFlags,
  port: Port,
): Promise<void> {
  const workspace = await openWorkspace(flags.workspace)
  await port.tell(workspace)
  const variants = name === undefined ? workspace.variants : [workspace.variant(name)]
  if (flags.drop === true) {
    await drop(workspace, variants, flags, port)
    return
  }
  if (flags.to === undefined)
    throw new Failure('call/wrong', 'the call lacks --to', {
      exit: EXIT.wrongCall,
      hint: 'say which release to move to: anagnosis vanilla list names them',
    })
  if (variants.length === 0)
    throw new Failure('variant/none', 'anagnosis.yaml names no variants', {
      exit: EXIT.wrongCall,
      hint: 'anagnosis setup adds one',
    })
  const carried: CarriedVariant[] = []
  const refused: RefusedVariant[] = []
  const codes: ExitCode[] = []
  for (const variant of variants) {
    try {
      const done = await carryOne(workspace, variant, flags.to, flags, port)
      carried.push(done)
      codes.push(exitOf(done.report), done.gone > 0 ? EXIT.open : EXIT.done)
    } catch (error) {
      // the others are carried all the same
      const failure = asFailure(error)
      if (variants.length === 1 || failure.exit === EXIT.interrupted) throw error
      codes.push(failure.exit)
      refused.push(refusal(variant, failure, flags))
    }
  }
  port.progress.end()
  process.exitCode = worstExit(codes)
  const releases = await workspace.store.releases()
  const dryRun = flags['dry-run']
  const next = nextCommands(carried, refused, flags)
  const { explain } = flags
  const done = { carried, refused, dropped: [], releases, dryRun, explain, next }
  if (flags.json === true) await port.printJson(variantsJson(done))
  else if (explain !== undefined)
    for (const { report } of carried)
      port.print(showExplanation(report, explain, port.paint, port.width))
  else port.print(showVariants(done, flags.all === true, port.paint, port.width))
}

async function carryOne(
  workspace: Workspace,
  variant: Variant,
  to: string,
  flags: CarryFlags,
  port: Port,
): Promise<CarriedVariant> {
  port.progress.doing(`Carrying ${variant.name}`)
  return carryVariant(workspace, variant, {
    to,
    old: flags.old,
    mine: mineChoice(flags.mine),
    yes: flags.yes === true,
    now: new Date(),
    dryRun: flags['dry-run'],
    explain: flags.explain,
    beforeWritten: (report) => {
      refuseUnknownKey(report, flags.explain)
    },
    progress: port.progress.update,
    signal: port.signal,
    crew: crewOf(port),
  })
}

function mineChoice(text: string | undefined): MineChoice {
  if (text === undefined || text === 'live' || text === 'kept') return text
  throw new Failure('call/wrong', `--mine is live or kept for a variant, and not ${text}`, {
    exit: EXIT.wrongCall,
    hint: 'live carries what is in the live folder, kept what was there before it was reset',
  })
}

function refusal(
  { name }: Variant,
  { code, message, exit, details }: Failure,
  flags: CarryFlags,
): RefusedVariant {
  const call = callOf(name, flags)
  const next = (details.next ?? []).map((way) => (way.startsWith('--') ? `${call} ${way}` : way))
  return { variant: name, code, message, hint: details.hint ?? null, exit, next }
}

/** The call that carries one variant in the same way. */
function callOf(name: string, flags: CarryFlags): string {
  return [
    `anagnosis carry ${quoted(name)} --to ${quoted(flags.to ?? '')}`,
    ...(flags.old === undefined ? [] : [`--old ${quoted(flags.old)}`]),
    ...(flags.mine === undefined ? [] : [`--mine ${flags.mine}`]),
    ...(flags.yes === true ? ['--yes'] : []),
    ...(flags.workspace === undefined ? [] : [`--workspace ${quoted(flags.workspace)}`]),
  ].join(' ')
}

function nextCommands(
  carried: readonly CarriedVariant[],
  refused: readonly RefusedVariant[],
  flags: CarryFlags,
): string[] {
  const at = flags.workspace === undefined ? '' : ` --workspace ${quoted(flags.workspace)}`
  const ways = refused.flatMap(({ next }) => next)
  const calls = carried.map(({ variant }) => callOf(variant, flags))
  if (flags['dry-run']) return [...calls, ...ways]
  const open = carried.filter(({ report }) => {
    const { conflicts, unread } = totalCounts(report.files)
    return conflicts + unread > 0
  })
  const settle = open.map(({ variant }) => `anagnosis settle ${quoted(variant)}${at}`)
  const ready = carried
    .filter((each) => !open.includes(each))
    .map(({ variant }) => `anagnosis deliver ${quoted(variant)}${at}`)
  const next = [...settle, ...ready, ...ways]
  return next.length > 0 ? next : [`anagnosis overview${at}`]
}

async function drop(
  workspace: Workspace,
  variants: readonly Variant[],
  flags: CarryFlags,
  port: Port,
): Promise<void> {
  const [variant] = variants
  if (variant === undefined || variants.length > 1)
    throw new Failure('call/wrong', 'the call does not say whose draft is to be dropped', {
      exit: EXIT.wrongCall,
      hint: `name a variant: ${variants.map(({ name }) => name).join(', ')}`,
    })
  const open = await openDraft(workspace.layout, variant.name)
  const dropped = open === undefined ? [] : [await dropDraft(workspace, variant.name)]
  const releases = await workspace.store.releases()
  const next = ['anagnosis overview']
  const done = { carried: [], refused: [], dropped, releases, dryRun: false, next }
  if (flags.json === true) await port.printJson(variantsJson({ ...done, explain: undefined }))
  else if (dropped.length === 0) port.print(`${variant.name} has no open draft.\n`)
  else port.print(showVariants({ ...done, explain: undefined }, false, port.paint, port.width))
}
