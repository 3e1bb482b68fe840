import * as Args from '@oclif/core/args'
import type { CompletionDocument } from '../show/completion-document.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import { findRoot } from '../workspace/find-root.ts'
import { nearest } from '../core/keys/nearest.ts'
import { paragraph } from './call.ts'
import type { Shell } from './completion-scripts.ts'
import { SCRIPTS, SHELLS } from './completion-scripts.ts'
import type { CompletedCommand, CompletedNames } from './completion-words.ts'
import { completedWords } from './completion-words.ts'
import { ProgramCommand } from './program-command.ts'

export default class Completion extends ProgramCommand {
  static override summary = 'Print what makes a shell complete calls of anagnosis.'
  static override description =
    paragraph(`Commands, options, and the variants, releases and backups of the workspace are completed. The first
lines of what is printed say where it goes.`)

  static override examples = [
    'anagnosis completion bash >> ~/.bashrc',
    'anagnosis completion powershell >> $PROFILE',
  ]

  static override args = {
    shell: Args.string({ required: true, description: 'bash, zsh or powershell' }),
    words: Args.string({ multiple: true, description: 'Of a call that a shell asks about' }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Completion)
    const { shell, words = [''] } = args
    if (shell === 'words') {
      const found = completedWords(words, this.completedCommands(), await namesHere())
      this.print(found.map((word) => `${word}\n`).join(''))
      return
    }
    if (!isShell(shell)) throw unknownShell(shell)
    const script = SCRIPTS[shell]
    const document: CompletionDocument = {
      command: 'completion',
      schema: 1,
      script,
      problems: [],
      next: [],
    }
    if (flags.json) await this.printJson(document)
    else this.print(script)
  }

  private completedCommands(): CompletedCommand[] {
    return this.config.commands
      .filter(({ hidden }) => !hidden)
      .map(({ id, flags, args }) => ({
        name: id.replaceAll(':', ' '),
        options: new Map(
          Object.values(flags).map(({ name, type }) => [`--${name}`, type === 'option']),
        ),
        args: Object.keys(args),
      }))
  }
}

function isShell(text: string): text is Shell {
  return SHELLS.some((shell) => shell === text)
}

function unknownShell(text: string): Failure {
  const near = nearest(text, SHELLS)
  return new Failure('call/wrong', `completion for ${text} is not known`, {
    exit: EXIT.wrongCall,
    hint: `${near === undefined ? '' : `did you mean ${near}? `}it is one of ${SHELLS.join(', ')}`,
  })
}

/** The names in the workspace around, if any; a shell is told nothing of what is wrong there. */
async function namesHere(): Promise<CompletedNames> {
  const nothing: CompletedNames = { variants: [], releases: [], backups: [] }
  const root = findRoot(process.cwd())
  if (root === undefined) return nothing
  try {
    const { openWorkspace } = await import('../workspace/workspace.ts')
    const { nameOf } = await import('../core/facts/release.ts')
    const { listBackups } = await import('../workspace/backup/backup.ts')
    const workspace = await openWorkspace(root)
    const variants = workspace.variants.map(({ name }) => name)
    const releases = (await workspace.store.releases()).map(nameOf)
    const backups = []
    for (const name of variants)
      backups.push(...(await listBackups(workspace.layout, name)).map((each) => each.name))
    return { variants, releases, backups }
  } catch {
    return nothing
  }
}
