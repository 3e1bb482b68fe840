import { listedJson } from '../../show/vanilla-json.ts'
import { showListed } from '../../show/vanilla-view.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class VanillaList extends WorkspaceCommand {
  static override summary =
    'List the releases in the store, in their order, and what stands on each.'
  static override examples = ['<%= config.bin %> vanilla list']

  async run(): Promise<void> {
    const { flags } = await this.parse(VanillaList)
    const workspace = await this.open(flags.workspace)
    const { listReleases } = await import('../../workspace/list-releases.ts')
    const listed = await listReleases(workspace)
    const next =
      listed.releases.length === 0
        ? ['anagnosis vanilla add VERSION SOURCE']
        : ['anagnosis vanilla verify']
    if (flags.json) await this.printJson(listedJson(listed, next))
    else this.print(showListed(listed, next, this.paint, this.width))
  }
}
