import { verifiedJson } from '../../show/vanilla-json.ts'
import { showVerified } from '../../show/vanilla-view.ts'
import { EXIT } from '../../workspace/failure.ts'
import { WorkspaceCommand } from '../workspace-command.ts'

export default class VanillaVerify extends WorkspaceCommand {
  static override summary =
    'Hash all files in the store anew: whether they are still what was taken in.'
  static override examples = ['<%= config.bin %> vanilla verify']

  async run(): Promise<void> {
    const { flags } = await this.parse(VanillaVerify)
    const { store } = await this.open(flags.workspace)
    const { verifyStore } = await import('../../workspace/store/verify-store.ts')
    const releases = await store.releases()
    const verified = await verifyStore(store, releases, {
      progress: this.progress.update,
      signal: this.interruption(),
    })
    this.progress.end()
    const broken = new Set(verified.findings.map(({ release }) => release))
    const next = [...broken].map((name) => `anagnosis vanilla remove ${name}`)
    process.exitCode = verified.findings.length > 0 ? EXIT.open : EXIT.done
    if (flags.json) await this.printJson(verifiedJson(verified, next))
    else this.print(showVerified(verified, next, this.paint, this.width))
  }
}
