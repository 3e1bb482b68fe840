import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import type { SettleState } from '../core/facts/settled.ts'
import { settleJson } from '../show/settle-json.ts'
import { showSettle } from '../show/settle-view.ts'
import { settleSummary } from '../show/settle-screen/summary.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import type { Variant, Workspace } from '../workspace/workspace.ts'
import { paragraph, quoted } from './call.ts'
import { screenModule } from './screen.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class Settle extends WorkspaceCommand {
  static override summary = 'Decide the keys that are open in a draft, and any other key of it.'
  static override description =
    paragraph(`Shows the questions of the open draft of a variant, or answers them by options. An answer is
written at once, and holds for the next carry as long as the same three values meet at its key.`)

  static override usage = [
    '<%= command.id %> [VARIANT] [--list] [--all] [--workspace DIR] [--json]',
    '<%= command.id %> [VARIANT] --file PATH [--key KEY] --take WHAT [--alike]',
    '<%= command.id %> [VARIANT] --id ID --take WHAT [--alike]',
    '<%= command.id %> [VARIANT] --from FILE|VARIANT',
    '<%= command.id %> [VARIANT] --looked-at PATTERN',
  ]

  static override examples = [
    {
      description: 'In the folder that anagnosis demo saltlantern writes, after a carry:',
      command: '<%= config.bin %> settle old-harbour --list',
    },
    {
      description: 'One key, and all that are alike:',
      command:
        "<%= config.bin %> settle old-harbour --file salvage/finds.xml --key 'find[diving-bell]/yield/@most' --take value:12 --alike",
    },
  ]

  static override args = {
    variant: Args.string({ description: 'The variant; the only one by default' }),
  }

  static override flags = {
    list: Flags.boolean({ description: 'Show the questions that are open, and the choices' }),
    file: Flags.string({
      helpValue: 'PATH',
      description:
        'The file that is decided, or a pattern of files: all that is open in it, but for --key',
    }),
    key: Flags.string({
      helpValue: 'KEY',
      description: 'The key that is decided; one that is in no question gets a value',
      dependsOn: ['file'],
    }),
    id: Flags.string({
      helpValue: 'ID',
      description: 'The question that is decided, by the id of a conflict',
      exclusive: ['file', 'key'],
    }),
    take: Flags.string({
      helpValue: 'WHAT',
      description:
        'vanilla, mine, both (the one of vanilla first), value:TEXT, source:TEXT (as it stands in the file), or onto:KEY (your edits go to that entry)',
    }),
    alike: Flags.boolean({ description: 'Answer the whole question: all keys that are alike' }),
    'looked-at': Flags.string({
      helpValue: 'PATTERN',
      description: 'Mark groups of changes as looked at: a pattern of keys or files, or all',
    }),
    from: Flags.string({
      helpValue: 'FILE|VARIANT',
      description: 'Take over what was decided in that file, or for that variant',
      exclusive: ['file', 'key', 'id', 'take'],
    }),
    all: Flags.boolean({ description: 'Show every question' }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Settle)
    const workspace = await this.open(flags.workspace)
    const variant = variantOf(workspace, args.variant)
    const { settle } = await import('../workspace/settle/settle.ts')
    const { file, key, id, take, from } = flags
    const lookedAt = flags['looked-at']
    const isList = take === undefined && from === undefined && lookedAt === undefined
    if (isList && !flags.list && file === undefined && id === undefined && this.hasScreen(flags)) {
      await this.onScreen(workspace, variant)
      return
    }
    if (isList && (file ?? id) !== undefined) throw lacksTake()
    const state = await settle(workspace, variant, {
      file,
      key,
      id,
      take,
      alike: flags.alike,
      lookedAt,
      from,
    })
    process.exitCode = exitOf(state)
    const at = flags.workspace === undefined ? '' : ` --workspace ${quoted(flags.workspace)}`
    const call = `anagnosis settle ${quoted(variant.name)}${at}`
    const next = nextCommands(state, call, at, isList)
    if (flags.json) await this.printJson(settleJson(state, next))
    else {
      const view = { state, call, isList, all: flags.all, next }
      this.print(showSettle(view, this.paint, this.width))
    }
  }

  /** Whether there is a terminal in which the draft can be shown as a whole. */
  private hasScreen({ json }: { json: boolean }): boolean {
    return this.canAsk(json) && process.stdout.isTTY && process.env.TERM !== 'dumb'
  }

  private async onScreen(workspace: Workspace, variant: Variant): Promise<void> {
    const { ScreenSettling } = await import('../workspace/settle/screen-settling.ts')
    const { runSettleScreen } = await screenModule()
    const settling = await ScreenSettling.open(workspace, variant)
    try {
      const { state, isInterrupted } = await runSettleScreen(settling, this.paint)
      const isOpen = state.data.questions.length > 0
      process.exitCode = isInterrupted ? EXIT.interrupted : isOpen ? EXIT.open : EXIT.done
      const next = isOpen
        ? [`anagnosis settle ${quoted(variant.name)}`]
        : [
            `anagnosis check ${quoted(variant.name)} --draft`,
            `anagnosis deliver ${quoted(variant.name)}`,
          ]
      this.print(settleSummary(state.data, next, this.paint, this.width))
    } finally {
      await settling.close()
    }
  }
}

/** The variant of a call, or the only one there is. @throws Failure with a list where there are several */
export function variantOf(workspace: Workspace, name: string | undefined): Variant {
  if (name !== undefined) return workspace.variant(name)
  const [only, ...others] = workspace.variants
  if (only !== undefined && others.length === 0) return only
  throw new Failure('call/wrong', 'the call does not name a variant', {
    exit: EXIT.wrongCall,
    hint:
      only === undefined
        ? 'there is none; anagnosis setup adds one'
        : `name one of ${workspace.variants.map((each) => each.name).join(', ')}`,
  })
}

function lacksTake(): Failure {
  return new Failure('call/wrong', 'the call lacks --take', {
    exit: EXIT.wrongCall,
    hint: 'it is vanilla, mine, both, value:TEXT, source:TEXT or onto:KEY',
  })
}

/** Malformed edits by hand count for more than open questions. */
function exitOf({ open, problems }: SettleState): number {
  if (problems.some(({ severity }) => severity === 'error')) return EXIT.unread
  return open > 0 ? EXIT.open : EXIT.done
}

function nextCommands(state: SettleState, call: string, at: string, isList: boolean): string[] {
  const [question] = state.questions
  if (question === undefined) return [`anagnosis deliver ${quoted(state.variant)}${at}`]
  if (!isList) return [call]
  const { example } = question
  const named = example.unread === true ? `--file ${quoted(example.path)}` : `--id ${example.id}`
  return [`${call} ${named} --take vanilla`]
}
