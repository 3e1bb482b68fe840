import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import { showAdded } from '../../show/vanilla-view.ts'
import { addedJson } from '../../show/vanilla-json.ts'
import { WorkspaceCommand } from '../workspace-command.ts'
import { paragraph, quoted } from '../call.ts'

export default class VanillaAdd extends WorkspaceCommand {
  static override summary = "Take a release of the game's untouched files into the store."
  static override description =
    paragraph(`A source is a folder, a .zip, .tar or .tar.gz, or PATH@REVISION of a git repository; several
sources are one release, the later ones standing where they have the same file. What releases
share is kept once. Nothing is taken in where the run fails or is interrupted.`)

  static override examples = [
    {
      description: 'In the folder that anagnosis demo saltlantern writes:',
      command: '<%= config.bin %> vanilla add 4.2 vanilla-4.2',
    },
  ]

  static override args = {
    version: Args.string({
      required: true,
      description: 'The label that the game shows, such as 4.2',
    }),
    source: Args.string({
      required: true,
      multiple: true,
      description: 'Where its files are; several are one release',
    }),
  }

  static override flags = {
    onto: Flags.string({
      helpValue: 'VERSION',
      description: 'The sources hold changed files only: all others are as in that release',
    }),
    trial: Flags.boolean({
      description: 'The release is on a test branch: taken in again it gets its next revision',
    }),
    subfolder: Flags.string({
      helpValue: 'DIR',
      description: 'Take only what is in that folder of the sources',
    }),
    only: Flags.string({
      multiple: true,
      multipleNonGreedy: true,
      helpValue: 'PATTERN',
      description: 'Take only files whose path matches; can be given more than once',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(VanillaAdd)
    const workspace = await this.open(flags.workspace)
    const { takeRelease } = await import('../../workspace/take-release.ts')
    const taken = await takeRelease(workspace, {
      label: args.version,
      sources: args.source,
      onto: flags.onto,
      trial: flags.trial,
      subfolder: flags.subfolder,
      only: flags.only ?? [],
      now: new Date(),
      progress: this.progress.update,
      signal: this.interruption(),
    })
    this.progress.end()
    const next =
      taken.before === undefined
        ? ['anagnosis overview']
        : [`anagnosis whatsnew ${quoted(taken.before)} ${quoted(taken.name)}`]
    if (flags.json) await this.printJson(addedJson(taken, next))
    else this.print(showAdded(taken, next, this.paint, this.width))
  }
}
