import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import type { Restored } from '../core/facts/delivered.ts'
import { restoreJson } from '../show/deliver-json.ts'
import { showRestored } from '../show/deliver-view.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import { paragraph } from './call.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class Restore extends WorkspaceCommand {
  static override summary = 'Put back what was live before, or what a backup holds.'
  static override description =
    paragraph(`Puts back bytes, modes and times, and the vanilla that the variant stood on. What is live now goes
into a backup first, so that another restore puts that back. Files that appeared later stay, but
with --remove-later.`)

  static override examples = ['<%= config.bin %> restore']

  static override args = {
    backup: Args.string({
      description: 'The backup; by default what was live before the last delivery or restore',
    }),
  }

  static override flags = {
    'remove-later': Flags.boolean({
      default: false,
      description: 'Remove files that appeared after that backup',
    }),
    yes: Flags.boolean({ default: false, description: 'Answer yes to what would be asked' }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Restore)
    const workspace = await this.open(flags.workspace)
    const { backupToRestore, restore } = await import('../workspace/deliver/restore.ts')
    const { backup, variant } = await backupToRestore(workspace, args.backup)
    const restored = await restore(workspace, variant, backup, {
      now: new Date(),
      removeLater: flags['remove-later'],
      confirm: (planned) => this.confirmed(planned, flags),
    })
    this.progress.end()
    if (restored === undefined) {
      this.print('Nothing was done.\n')
      return
    }
    const next = ['anagnosis overview']
    if (flags.json) await this.printJson(restoreJson(restored, next))
    else this.print(showRestored(restored, true, next, this.paint, this.width))
  }

  private async confirmed(
    planned: Restored,
    { yes, json }: { yes: boolean; json: boolean },
  ): Promise<boolean> {
    if (yes) return true
    if (!this.canAsk(json))
      throw new Failure(
        'restore/asks',
        `${planned.backup} is to be put back over what is live: that is asked first`,
        { exit: EXIT.refused, hint: '--yes does it', next: ['--yes'] },
      )
    this.print(showRestored(planned, false, [], this.paint, this.width))
    return this.answered('Put this back?')
  }
}
