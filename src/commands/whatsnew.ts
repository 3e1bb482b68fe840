import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import { whatsNewJson } from '../show/whatsnew-json.ts'
import type { WhatsNewView } from '../show/whatsnew-view.ts'
import { showWhatsNew } from '../show/whatsnew-view.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import type { Workspace } from '../workspace/workspace.ts'
import { paragraph, quoted } from './call.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class WhatsNew extends WorkspaceCommand {
  static override summary =
    'Tell what an update changed, alike changes grouped, the most telling first.'
  static override description =
    paragraph(`Compares two releases in the store, or two folders or files with --old and --new. With --for it
says first what the update does to the edits of a variant: what will conflict, what merges, and
what a policy would wipe. Ends with 0 however much it shows.`)

  static override examples = [
    {
      description: 'In the folder that anagnosis demo saltlantern writes:',
      command: '<%= config.bin %> whatsnew --old vanilla-4.1 --new vanilla-4.2',
    },
    {
      description: 'In a workspace:',
      command: '<%= config.bin %> whatsnew 4.1 4.2 --for old-harbour',
    },
  ]

  static override args = {
    old: Args.string({ description: 'The release before, such as 4.1' }),
    new: Args.string({ description: 'The release after, such as 4.2 or 4.2+1' }),
  }

  static override flags = {
    old: Flags.string({ helpValue: 'PATH', description: 'A folder or file in the place of OLD' }),
    new: Flags.string({ helpValue: 'PATH', description: 'A folder or file in the place of NEW' }),
    file: Flags.string({ helpValue: 'PATTERN', description: 'Only files whose path matches' }),
    for: Flags.string({
      helpValue: 'VARIANT',
      description: 'What it does to the edits of that variant, first',
    }),
    all: Flags.boolean({ description: 'Show every row' }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(WhatsNew)
    const { treesOfPaths, treesOfReleases } = await import('../workspace/compare/named-tree.ts')
    const paths = pair(flags.old, flags.new)
    const names = pair(args.old, args.new)
    const workspace =
      paths === undefined || flags.for !== undefined ? await this.open(flags.workspace) : undefined
    const trees =
      paths !== undefined
        ? await treesOfPaths(...paths)
        : names !== undefined && workspace !== undefined
          ? await treesOfReleases(workspace, names)
          : undefined
    if (trees === undefined) throw incomplete()
    const [old, fresh] = trees
    const { update: progress } = this.progress
    const signal = this.interruption()
    const options = { config: workspace?.config ?? {}, file: flags.file, progress, signal }
    const { compareTrees } = await import('../workspace/compare/whatsnew.ts')
    const { touchOfVariant } = await import('../workspace/compare/touch.ts')
    const news = await compareTrees(old.tree, fresh.tree, options)
    const touch =
      flags.for === undefined || workspace === undefined
        ? undefined
        : await touchOfVariant(
            workspace,
            workspace.variant(flags.for),
            [old.tree, fresh.tree],
            options,
          )
    this.progress.end()
    process.exitCode = news.problems.length > 0 ? EXIT.unread : EXIT.done
    const next = nextCommands(paths, [old.name, fresh.name], flags.for, workspace)
    const view: WhatsNewView = { from: old.name, to: fresh.name, news, touch, next, all: flags.all }
    if (flags.json) await this.printJson(whatsNewJson(view))
    else this.print(showWhatsNew(view, this.paint, this.width))
  }
}

type Pair = [old: string, fresh: string]

function pair(old: string | undefined, fresh: string | undefined): Pair | undefined {
  return old === undefined || fresh === undefined ? undefined : [old, fresh]
}

function nextCommands(
  paths: Pair | undefined,
  [old, fresh]: Pair,
  variant: string | undefined,
  workspace: Workspace | undefined,
): string[] {
  if (variant !== undefined) return [`anagnosis backup ${quoted(variant)}`]
  if (paths !== undefined) {
    const [from, to] = paths.map(quoted)
    return [`anagnosis carry --old ${from ?? ''} --new ${to ?? ''} --mine YOURS --out carried`]
  }
  const [first] = workspace?.variants ?? []
  return first === undefined
    ? ['anagnosis overview']
    : [`anagnosis whatsnew ${quoted(old)} ${quoted(fresh)} --for ${quoted(first.name)}`]
}

function incomplete(): Failure {
  return new Failure('call/wrong', 'two releases are needed to compare, or --old and --new', {
    exit: EXIT.wrongCall,
    hint: 'anagnosis vanilla list names the releases in the store',
  })
}
