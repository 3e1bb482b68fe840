import * as Flags from '@oclif/core/flags'
import type { Workspace } from '../workspace/workspace.ts'
import { ProgramCommand } from './program-command.ts'

/** What all commands share that work in a workspace. */
export abstract class WorkspaceCommand extends ProgramCommand {
  static override baseFlags = {
    ...ProgramCommand.baseFlags,
    workspace: Flags.string({
      helpValue: 'DIR',
      description: 'The folder with anagnosis.yaml; else the nearest one from here upwards',
    }),
  }

  /** The config and the store are read with packages that no other call needs. */
  protected async open(named: string | undefined): Promise<Workspace> {
    const { openWorkspace } = await import('../workspace/workspace.ts')
    const workspace = await openWorkspace(named)
    await this.tellUnfinished(workspace)
    return workspace
  }
}
