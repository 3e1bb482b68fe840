import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import { listedJson } from '../../show/vanilla-json.ts'
import { showListed } from '../../show/vanilla-view.ts'
import { EXIT, Failure } from '../../workspace/failure.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class VanillaOrder extends WorkspaceCommand {
  static override summary =
    'Say which release came before which, where they were taken in otherwise.'
  static override examples = ['<%= config.bin %> vanilla order 4.1 --before 4.2']

  static override args = {
    version: Args.string({ required: true, description: 'The release to move' }),
  }

  static override flags = {
    before: Flags.string({
      helpValue: 'VERSION',
      description: 'The release that came right after it',
      exclusive: ['after'],
    }),
    after: Flags.string({
      helpValue: 'VERSION',
      description: 'The release that came right before it',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(VanillaOrder)
    const { before, after } = flags
    const place = before !== undefined ? { before } : after !== undefined ? { after } : undefined
    if (place === undefined)
      throw new Failure('call/wrong', 'the call lacks --before or --after', {
        exit: EXIT.wrongCall,
        hint: 'name the release beside which it belongs',
      })
    const workspace = await this.open(flags.workspace)
    const { orderRelease } = await import('../../workspace/store/order-release.ts')
    await orderRelease(workspace.store, args.version, place)
    const { listReleases } = await import('../../workspace/list-releases.ts')
    const listed = await listReleases(workspace)
    const next = ['anagnosis overview']
    if (flags.json) await this.printJson(listedJson(listed, next, 'vanilla order'))
    else this.print(showListed(listed, next, this.paint, this.width))
  }
}
