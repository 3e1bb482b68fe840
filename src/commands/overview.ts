import { showOverview } from '../show/overview-view.ts'
import { overviewJson } from '../show/workspace-json.ts'
import type { Overview as Facts } from '../core/facts/overview.ts'
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
  const isWiped = variants.some(({ wiped }) => wiped.length > 0)
  const all = variants.flatMap(({ name, vanilla, vanillaAdded, newer, backups, isThere }) => {
    const last = newer.at(-1)
    return [
      ...(vanillaAdded === null ? [`anagnosis vanilla add ${quoted(vanilla)} SOURCE`] : []),
      ...(backups.length === 0 && isThere ? [`anagnosis backup ${quoted(name)}`] : []),
      ...(last === undefined
        ? []
        : [`anagnosis whatsnew ${quoted(vanilla)} ${quoted(last)} --for ${quoted(name)}`]),
    ]
  })
  const unknown =
    version !== undefined && !isInstalledKnown
      ? [`anagnosis vanilla add ${quoted(version)} SOURCE`]
      : []
  const next = [...new Set([...(isWiped ? ['anagnosis backup list'] : []), ...unknown, ...all])]
  return next.length > 0 ? next : ['anagnosis vanilla add VERSION SOURCE']
}
