import { showBackups } from '../../show/backup-view.ts'
import { backupsJson } from '../../show/workspace-json.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class BackupList extends WorkspaceCommand {
  static override summary = 'List the backups: their size, their age, and what they hold.'
  static override examples = ['<%= config.bin %> backup list']

  async run(): Promise<void> {
    const { flags } = await this.parse(BackupList)
    const workspace = await this.open(flags.workspace)
    const { listBackups } = await import('../../workspace/backup/backup.ts')
    const backups = await listBackups(workspace.layout)
    const next = backups.length === 0 ? ['anagnosis backup'] : ['anagnosis overview']
    if (flags.json) await this.printJson(backupsJson(backups, next))
    else this.print(showBackups(backups, new Date(), next, this.paint, this.width))
  }
}
