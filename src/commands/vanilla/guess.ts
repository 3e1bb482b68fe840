import * as Args from '@oclif/core/args'
import { guessedJson } from '../../show/guess-json.ts'
import { showGuessed } from '../../show/guess-view.ts'
import { EXIT } from '../../workspace/failure.ts'
import { paragraph, quoted } from '../call.ts'
import { isSamePath } from '../../workspace/paths.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class VanillaGuess extends WorkspaceCommand {
  static override summary = 'Tell which stored release a folder was made from, file by file.'
  static override description =
    paragraph(`A file was made from the release that it shares most keys and values with, where that is 60
percent or more. A folder of vanilla files that is not clean is told, too: which files differ
from every release, and in how many keys. Ends with 1 unless all files are one release's.`)

  static override examples = [
    {
      description: 'In the folder that anagnosis demo saltlantern writes:',
      command: '<%= config.bin %> vanilla guess old-harbour',
    },
  ]

  static override args = {
    folder: Args.string({ required: true, description: 'The folder to look at' }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(VanillaGuess)
    const workspace = await this.open(flags.workspace)
    const { guessFolder } = await import('../../workspace/guess.ts')
    const variant = workspace.variants.find(({ location }) => isSamePath(location, args.folder))
    const guessed = await guessFolder(workspace.store, args.folder, {
      isLeftOut: workspace.isState(args.folder),
      own: variant?.vanilla,
      progress: this.progress.update,
      signal: this.interruption(),
    })
    this.progress.end()
    process.exitCode = guessed.isClean ? EXIT.done : EXIT.open
    const release = guessed.release ?? 'VERSION'
    const next =
      guessed.isClean || variant !== undefined
        ? ['anagnosis overview']
        : [
            `anagnosis setup --variant NAME --folder ${quoted(args.folder)} --vanilla ${quoted(release)}`,
          ]
    if (flags.json) await this.printJson(guessedJson(guessed, next))
    else this.print(showGuessed(guessed, args.folder, next, this.paint, this.width))
  }
}
