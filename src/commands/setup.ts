import { resolve } from 'node:path'
import * as Flags from '@oclif/core/flags'
import { showSetup } from '../show/setup-view.ts'
import { setupJson } from '../show/workspace-json.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import type { SetupDone } from '../core/facts/setup.ts'
import { paragraph, quoted } from './call.ts'
import type { Answers, Said } from './setup-questions.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class Setup extends WorkspaceCommand {
  static override summary = 'Write anagnosis.yaml for a live folder, and take a first backup of it.'
  static override description =
    paragraph(`Asks for what the call does not say where there is a terminal. Proposes what to do with which
files, with the reasons, and says what is not under its care. Nothing in the live folder is
changed, and run again it changes nothing.`)

  static override examples = [
    {
      description: 'In the folder that anagnosis demo saltlantern writes:',
      command:
        '<%= config.bin %> setup --variant old-harbour --folder old-harbour --vanilla 4.1 --source vanilla-4.1',
    },
  ]

  static override flags = {
    variant: Flags.string({ helpValue: 'NAME', description: 'What to call the variant' }),
    folder: Flags.string({ helpValue: 'DIR', description: 'Its live folder' }),
    vanilla: Flags.string({
      helpValue: 'VERSION',
      description: 'The label of the vanilla it was made from; none, if you no longer have it',
    }),
    source: Flags.string({
      helpValue: 'SOURCE',
      description:
        'Where that vanilla is: a folder, an archive, or PATH@REVISION; it goes into the store',
    }),
    game: Flags.string({ helpValue: 'NAME', description: 'The name of the game' }),
    sparse: Flags.boolean({
      default: false,
      description: 'The folder holds the customised files only, and so will what is carried',
    }),
  }

  async run(): Promise<void> {
    const { flags } = await this.parse(Setup)
    const root = resolve(flags.workspace ?? '.')
    const said = await this.complete(root, flags, flags.json)
    const { setUp } = await import('../workspace/setup/setup.ts')
    const done = await setUp({
      root,
      ...said,
      sparse: flags.sparse,
      now: new Date(),
      progress: this.progress.update,
      signal: this.interruption(),
    })
    this.progress.end()
    const next = nextCommands(done)
    if (flags.json) await this.printJson(setupJson(done, next))
    else this.print(showSetup(done, next, this.paint, this.width))
  }

  /** What the call says, and the answers to what it does not; shown as a whole before anything is written. */
  private async complete(root: string, flags: Said, isJson: boolean): Promise<Answers> {
    const { variant, folder, vanilla, source, game } = flags
    if (variant !== undefined && folder !== undefined && vanilla !== undefined)
      return { variant, folder, vanilla, source, game }
    if (!this.canAsk(isJson)) throw incomplete(flags)
    const { SetupQuestions } = await import('./setup-questions.ts')
    const answers = await new SetupQuestions(root, flags).ask()
    if (answers !== undefined) return answers
    throw new Failure('run/interrupted', 'nothing was written, as you said', {
      exit: EXIT.interrupted,
    })
  }
}

function incomplete(flags: Said): Failure {
  const missing = (['variant', 'folder', 'vanilla'] as const).filter(
    (name) => flags[name] === undefined,
  )
  return new Failure(
    'call/wrong',
    `the call lacks ${missing.map((name) => `--${name}`).join(', ')}`,
    {
      exit: EXIT.wrongCall,
      hint: 'in a terminal setup asks for them; without one they are needed',
    },
  )
}

function nextCommands({ variant, hasVanilla, fewOf }: SetupDone): string[] {
  const { name, folder, vanilla } = variant
  const sparse =
    fewOf === undefined
      ? []
      : [
          `anagnosis setup --variant ${quoted(name)} --folder ${quoted(folder)} --vanilla ${quoted(vanilla)} --sparse`,
        ]
  return hasVanilla || vanilla === 'none'
    ? [...sparse, 'anagnosis vanilla add NEWVERSION SOURCE', 'anagnosis overview']
    : [`anagnosis vanilla add ${quoted(variant.vanilla)} SOURCE`, 'anagnosis overview']
}
