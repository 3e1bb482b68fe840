import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import type { BackupDone } from '../../show/backup-view.ts'
import { showBackup } from '../../show/backup-view.ts'
import { backupJson } from '../../show/workspace-json.ts'
import type { ExitCode } from '../../workspace/failure.ts'
import { asFailure, EXIT, worstExit } from '../../workspace/failure.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class Backup extends WorkspaceCommand {
  static override summary = 'Copy the live folder of a variant, or of all, into a plain folder.'
  static override examples = [
    '<%= config.bin %> backup old-harbour',
    {
      description: 'And remove all but the newest five of it:',
      command: '<%= config.bin %> backup old-harbour --keep 5',
    },
  ]

  static override args = {
    variant: Args.string({ description: 'The variant; all of them by default' }),
  }

  static override flags = {
    keep: Flags.integer({
      min: 1,
      helpValue: 'NUMBER',
      description: 'Remove older backups of the variant, but for so many; none are removed unasked',
    }),
    'as-it-is': Flags.boolean({
      default: false,
      description: 'Edits that are gone from the folder are gone on purpose',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Backup)
    const workspace = await this.open(flags.workspace)
    const { backUp, thinOld } = await import('../../workspace/backup/back-up.ts')
    const variants =
      args.variant === undefined ? workspace.variants : [workspace.variant(args.variant)]
    const done: BackupDone = { made: [], thinned: [], spared: 0, failed: [] }
    const codes: ExitCode[] = []
    const asItIs = flags['as-it-is']
    const signal = this.interruption()
    for (const variant of variants) {
      const { update: progress } = this.progress
      try {
        const made = await backUp(workspace, variant, {
          now: new Date(),
          asItIs,
          progress,
          signal,
        })
        done.made.push(made)
        if (made.wiped.length > 0) codes.push(EXIT.open)
        if (flags.keep === undefined) continue
        const { removed, spared } = await thinOld(workspace, variant, flags.keep)
        done.thinned.push(...removed)
        done.spared += spared
      } catch (error) {
        // the others are backed up all the same
        const failure = asFailure(error)
        if (variants.length === 1 || failure.exit === EXIT.interrupted) throw error
        done.failed.push({ variant: variant.name, code: failure.code, message: failure.message })
        codes.push(failure.exit)
      }
    }
    this.progress.end()
    process.exitCode = worstExit(codes)
    const next =
      variants.length === 0 ? ['anagnosis setup'] : ['anagnosis backup list', 'anagnosis overview']
    if (flags.json) await this.printJson(backupJson(done, next))
    else if (variants.length === 0)
      this.print('anagnosis.yaml names no variants; there is nothing to back up.\n')
    else this.print(showBackup(done, next, this.paint, this.width))
  }
}
