import * as Args from '@oclif/core/args'
import { removedJson } from '../../show/vanilla-json.ts'
import { showRemoved } from '../../show/vanilla-view.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class VanillaRemove extends WorkspaceCommand {
  static override summary = 'Take a release out of the store; refused while a variant stands on it.'
  static override examples = ['<%= config.bin %> vanilla remove 4.2']
  static override args = {
    version: Args.string({ required: true, description: 'The release, such as 4.2 or 4.2+1' }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(VanillaRemove)
    const workspace = await this.open(flags.workspace)
    const { removeRelease } = await import('../../workspace/store/remove-release.ts')
    const removed = await removeRelease(workspace.store, args.version, workspace.variants)
    const next = ['anagnosis vanilla list']
    if (flags.json) await this.printJson(removedJson(removed, next))
    else this.print(showRemoved(removed, next, this.paint, this.width))
  }
}
