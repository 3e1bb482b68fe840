import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import { FORMAT_NAMES } from '../core/formats/index.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import { paragraph } from './call.ts'
import { carryOnPaths } from './carry-on-paths.ts'
import type { Workspace } from '../workspace/workspace.ts'
import type { CarryFlags, Port } from './carry-on-paths.ts'
import { ProgramCommand } from './program-command.ts'

export default class Carry extends ProgramCommand {
  static override summary =
    'Bring your customised files over to a new vanilla: the three-way merge.'
  static override description =
    paragraph(`Merges by key: the vanilla that yours were made from, the vanilla to move to, and yours. Where
both sides changed a key differently, yours stands in the result and the key is listed. In a
workspace a variant is named, and the vanilla to move to; the result is a draft. Else three files or
three folders are named, and where the result goes. Nothing else is written.`)

  static override usage = [
    '<%= command.id %> [VARIANT] --to VERSION [--old VERSION] [--mine live|kept] [--explain KEY] [--dry-run] [--yes] [--all] [--workspace DIR] [--json]',
    '<%= command.id %> [VARIANT] --drop',
    '<%= command.id %> --old SOURCE --new SOURCE --mine PATH (--out PATH | --dry-run) [--onto SOURCE] [--sparse] [--config FILE] [--format xml|json|ini] [--explain KEY] [--replace] [--yes] [--all] [--json]',
  ]

  static override examples = [
    {
      description: 'On the demo data (anagnosis demo saltlantern writes it):',
      command:
        '<%= config.bin %> carry --old saltlantern/vanilla-4.1 --new saltlantern/vanilla-4.2 --mine saltlantern/old-harbour --out carried',
    },
    {
      description: 'In a workspace:',
      command: '<%= config.bin %> carry old-harbour --to 4.2',
    },
  ]

  static override args = {
    variant: Args.string({
      description: 'In a workspace: the variant to carry; all of them by default',
    }),
  }

  static override flags = {
    to: Flags.string({
      helpValue: 'VERSION',
      description: 'In a workspace: the release to move to',
    }),
    old: Flags.string({
      helpValue: 'SOURCE',
      description:
        'The vanilla that yours were made from: a file, a folder, an archive, PATH@REVISION or a release; none, if you no longer have it. Of a variant: a release, or guess, for each file its own',
    }),
    new: Flags.string({
      helpValue: 'SOURCE',
      description: 'The vanilla to move to, in the same forms',
    }),
    mine: Flags.string({
      helpValue: 'PATH',
      description:
        'Your customised file or folder. Of a variant: live or kept, for files that were reset',
    }),
    out: Flags.string({
      helpValue: 'PATH',
      description: 'Where the result goes; it must not exist. Needed unless --dry-run is there',
    }),
    onto: Flags.string({
      helpValue: 'SOURCE',
      description: 'New holds changed files only: all others are as in that release or folder',
    }),
    sparse: Flags.boolean({
      description: 'Yours holds the customised files only: the result has those, and no others',
    }),
    config: Flags.string({
      helpValue: 'FILE',
      description: 'An anagnosis.yaml with policies and identities for files',
    }),
    format: Flags.string({
      options: [...FORMAT_NAMES],
      description: 'The format of single files, where the extension does not tell',
    }),
    explain: Flags.string({
      helpValue: 'KEY',
      description:
        'Tell of one key why the result is what it is; with its file before it, as in a.xml:KEY, or without',
    }),
    replace: Flags.boolean({ description: 'Replace what is at --out' }),
    'dry-run': Flags.boolean({
      default: false,
      description: 'Write nothing, and tell what a carry would come to',
    }),
    drop: Flags.boolean({ description: 'Remove the open draft of the variant' }),
    all: Flags.boolean({ description: 'Show every question' }),
    yes: Flags.boolean({ description: 'Answer yes to what would be asked' }),
    workspace: Flags.string({
      helpValue: 'DIR',
      description: 'The folder with anagnosis.yaml; else the nearest one from here upwards',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Carry)
    const isOfVariant = flags.to !== undefined || flags.drop || args.variant !== undefined
    const port: Port = {
      paint: this.paint,
      width: this.width,
      progress: this.progress,
      signal: this.interruption(),
      root: this.config.root,
      print: (text: string): void => {
        this.print(text)
      },
      printJson: (document: Parameters<Port['printJson']>[0]): Promise<void> =>
        this.printJson(document),
      tell: (workspace: Workspace): Promise<void> => this.tellUnfinished(workspace),
    }
    if (isOfVariant) refuseMixed(flags)
    await this.asking(flags, async () => {
      if (!isOfVariant) {
        await carryOnPaths(flags, port)
        return
      }
      const { carryVariants } = await import('./carry-variants.ts')
      await carryVariants(args.variant, flags, port)
    })
  }
}

/** @throws Failure where a call of a variant has options that are for paths */
function refuseMixed(flags: CarryFlags): void {
  const options = ['new', 'out', 'onto', 'sparse', 'config', 'format', 'replace'] as const
  const stray = options.find((name) => flags[name] !== undefined && flags[name] !== false)
  if (stray === undefined) return
  throw new Failure('call/wrong', `--${stray} is for a carry on paths, not of a variant`, {
    exit: EXIT.wrongCall,
    hint: 'name --old, --new, --mine and --out; or a variant and --to VERSION',
  })
}
