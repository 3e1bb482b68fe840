import { Flags } from '@oclif/core'
import type { Workspace } from '../workspace/workspace.ts'
import { ProgramCommand } from './program-command.ts'
import { Progress } from './terminal.ts'

/** What all commands share that work in a workspace. */
export abstract class WorkspaceCommand extends ProgramCommand {
  static override baseFlags = {
    ...ProgramCommand.baseFlags,
    workspace: Flags.string({
      helpValue: 'DIR',
      description: 'The folder with anagnosis.yaml; else the nearest one from here upwards',
    }),
  }

  protected readonly progress = new Progress(process.stderr)

  /** The config and the store are read with packages that no other call needs. */
  protected async open(named: string | undefined): Promise<Workspace> {
    const { openWorkspace } = await import('../workspace/workspace.ts')
    return openWorkspace(named)
  }

  /** Aborted when the user interrupts the run. */
  protected interruption(): AbortSignal {
    const interrupted = new AbortController()
    process.once('SIGINT', () => {
      interrupted.abort()
    })
    return interrupted.signal
  }
}
