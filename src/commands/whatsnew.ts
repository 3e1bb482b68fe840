import { stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { Args, Flags } from '@oclif/core'
import { nameOf } from '../core/facts/release.ts'
import { whatsNewJson } from '../show/whatsnew-json.ts'
import type { WhatsNewView } from '../show/whatsnew-view.ts'
import { showWhatsNew } from '../show/whatsnew-view.ts'
import { EXIT, Failure, systemFailure } from '../workspace/failure.ts'
import type { FileTree } from '../workspace/whatsnew.ts'
import type { Workspace } from '../workspace/workspace.ts'
import { quoted } from './call.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class WhatsNew extends WorkspaceCommand {
  static override summary =
    'Tell what an update changed, alike changes grouped, the most telling first.'
  static override description = `Compares two releases in the store, or two folders or files with --old and --new. With --for it
says first what the update does to the edits of a variant: what will conflict, what merges, and
what a policy would wipe. Ends with 0 however much it shows.`

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
    const isOnPaths = flags.old !== undefined && flags.new !== undefined
    if (!isOnPaths && (args.old === undefined || args.new === undefined)) throw incomplete()
    const needs = !isOnPaths || flags.for !== undefined
    const workspace = needs ? await this.open(flags.workspace) : undefined
    const file = basename(flags.new ?? '')
    const old = await this.tree(workspace, flags.old, args.old ?? '', file)
    const fresh = await this.tree(workspace, flags.new, args.new ?? '', file)
    const { compareTrees } = await import('../workspace/whatsnew.ts')
    const options = {
      config: workspace?.config ?? {},
      file: flags.file,
      progress: (done: number, total: number): void => {
        this.progress.update(done, total)
      },
      signal: this.interruption(),
    }
    const news = await compareTrees(old.tree, fresh.tree, options)
    const variant = flags.for === undefined ? undefined : workspace?.variant(flags.for)
    const touch =
      variant === undefined || workspace === undefined
        ? undefined
        : await (
            await import('../workspace/touch.ts')
          ).touchOfVariant(workspace, variant, [old.tree, fresh.tree], options)
    this.progress.end()
    process.exitCode = news.problems.length > 0 ? EXIT.unread : EXIT.done
    const next = this.next(workspace, old.name, fresh.name, flags)
    const view: WhatsNewView = { from: old.name, to: fresh.name, news, touch, next, all: flags.all }
    if (flags.json) await this.printJson(whatsNewJson(view))
    else this.print(showWhatsNew(view, this.paint, this.width))
  }

  private async tree(
    workspace: Workspace | undefined,
    path: string | undefined,
    name: string,
    single: string,
  ): Promise<{ name: string; tree: FileTree }> {
    const { readTree } = await import('../workspace/tree.ts')
    if (path !== undefined) {
      const there = await stat(path).catch((error: unknown) => {
        throw systemFailure(error, 'Looking at', path)
      })
      const file = { kind: 'file', location: path, mode: 0 } as const
      return { name: path, tree: there.isDirectory() ? readTree(path) : new Map([[single, file]]) }
    }
    if (workspace === undefined) throw incomplete()
    const { releaseNamed } = await import('../workspace/store/release.ts')
    const { releaseTree } = await import('../workspace/store/release-tree.ts')
    const release = releaseNamed(await workspace.store.releases(), name)
    return { name: nameOf(release), tree: await releaseTree(workspace.store, release) }
  }

  private next(
    workspace: Workspace | undefined,
    old: string,
    fresh: string,
    flags: { for?: string | undefined; old?: string | undefined; new?: string | undefined },
  ): string[] {
    if (flags.old !== undefined && flags.new !== undefined)
      return [
        `anagnosis carry --old ${quoted(flags.old)} --new ${quoted(flags.new)} --mine YOURS --out carried`,
      ]
    const variant = workspace?.variants.find(({ name }) => name !== flags.for)
    if (flags.for === undefined && variant !== undefined)
      return [`anagnosis whatsnew ${quoted(old)} ${quoted(fresh)} --for ${quoted(variant.name)}`]
    return [
      flags.for === undefined ? 'anagnosis overview' : `anagnosis backup ${quoted(flags.for)}`,
    ]
  }
}

function incomplete(): Failure {
  return new Failure('call/wrong', 'two releases are needed to compare, or --old and --new', {
    exit: EXIT.wrongCall,
    hint: 'anagnosis vanilla list names the releases in the store',
  })
}
