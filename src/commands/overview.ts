import { showOverview } from '../show/overview-view.ts'
import { overviewJson } from '../show/workspace-json.ts'
import type { Overview as Facts, VariantOverview } from '../core/facts/overview.ts'
import { quoted } from './call.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class Overview extends WorkspaceCommand {
  static override summary = 'Show where each variant stands, and what to do next.'
  static override examples = ['<%= config.bin %> overview']

  async run(): Promise<void> {
    const { flags } = await this.parse(Overview)
    const workspace = await this.open(flags.workspace)
    const { overviewOf } = await import('../workspace/overview.ts')
    const overview = await overviewOf(workspace)
    const next = nextCommands(overview)
    if (flags.json) await this.printJson(overviewJson(overview, next))
    else this.print(showOverview(overview, new Date(), next, this.paint, this.width))
  }
}

/** What is to be done first: what is missing, what is in danger, what is new. */
function nextCommands({ variants, installed, isInstalledKnown }: Facts): string[] {
  if (variants.length === 0) return ['anagnosis setup']
  const version = installed?.version
  const all = variants.flatMap((variant) => {
    const { name, vanilla, vanillaAdded, newer, backups, isThere, drafts } = variant
    const last = newestOf(newer)
    const draft = drafts.find(({ state }) => state !== 'delivered')
    return [
      ...(vanillaAdded === null && vanilla !== 'none'
        ? [`anagnosis vanilla add ${quoted(vanilla)} SOURCE`]
        : []),
      ...(backups.length === 0 && isThere ? [`anagnosis backup ${quoted(name)}`] : []),
      ...(draft === undefined
        ? []
        : draft.open > 0
          ? [`anagnosis settle ${quoted(name)}`]
          : [`anagnosis deliver ${quoted(name)}`]),
      ...(last === undefined ? [] : carryCalls(variant, last)),
    ]
  })
  const wiped = variants.flatMap((variant) => wipedCalls(variant))
  const unknown =
    version !== undefined && !isInstalledKnown
      ? [`anagnosis vanilla add ${quoted(version)} SOURCE`]
      : []
  const next = [...new Set([...wiped, ...unknown, ...all])]
  return next.length > 0 ? next : ['anagnosis vanilla add VERSION SOURCE']
}

/** The newest release that is final, else the newest trial: a server stands on a trial only where somebody says so. */
function newestOf(newer: readonly string[]): string | undefined {
  return newer.findLast((name) => !/\+[0-9]+$/.test(name)) ?? newer.at(-1)
}

/** Calls that bring wiped edits back: a carry takes the kept copy along. */
function wipedCalls({ name, vanilla, newer, wiped }: VariantOverview): string[] {
  if (wiped.length === 0) return []
  const to = newestOf(newer) ?? vanilla
  return [`anagnosis carry ${quoted(name)} --to ${quoted(to)}`, 'anagnosis backup list']
}

/** Calls for an update: what it brings, and the carry, where that was not made yet. */
function carryCalls({ name, vanilla, drafts }: VariantOverview, last: string): string[] {
  const isCarried = drafts.some(({ state, to }) => state !== 'delivered' && to === last)
  if (isCarried) return []
  const carry = `anagnosis carry ${quoted(name)} --to ${quoted(last)}`
  if (vanilla === 'none') return [carry]
  return [`anagnosis whatsnew ${quoted(vanilla)} ${quoted(last)} --for ${quoted(name)}`, carry]
}
