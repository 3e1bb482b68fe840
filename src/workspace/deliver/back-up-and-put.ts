import { readFileSync, realpathSync } from 'node:fs'
import { join } from 'node:path'
import type { BackupMade } from '../../core/facts/backup.ts'
import type { BackupOptions } from '../backup/backup.ts'
import { copyLive } from '../backup/backup.ts'
import { isLeftOut } from '../config/file-rule.ts'
import { refuseHeld } from '../draft/held.ts'
import { withLock } from '../io/lock.ts'
import { CONFIG_NAME } from '../state/layout.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { writtenVanilla } from './config-vanilla.ts'
import type { Journal } from './journal.ts'
import { refuseUnfinished } from './journal.ts'
import { PuttingLive } from './put-live.ts'

/** Runs `work` under the lock, where no delivery of the variant is unfinished. */
export function whileFinished<T>(
  { layout, disk }: Workspace,
  variant: Variant,
  work: () => Promise<T>,
): Promise<T> {
  refuseUnfinished(layout, variant.name)
  refuseHeld(layout, variant.name)
  return withLock(layout.root, work, disk)
}

/** Backs up what is live, and then puts files in their places. To be called under the lock. */
export async function backUpAndPut(
  workspace: Workspace,
  variant: Variant,
  what: Pick<Journal, 'kind' | 'source' | 'from' | 'vanilla' | 'despite' | 'steps'>,
  options: Pick<BackupOptions, 'now' | 'progress' | 'mayLack'>,
): Promise<BackupMade> {
  const { now } = options
  const made = await copyLive(workspace, variant, {
    ...options,
    before: { what: what.kind, from: what.from },
    isLeftOut: (path) => isLeftOut(workspace.config, path),
  })
  const config = readFileSync(join(workspace.root, CONFIG_NAME), 'utf8')
  const journal: Journal = {
    schema: 1,
    variant: variant.name,
    at: now.toISOString(),
    id: now.getTime().toString(36),
    folder: realpathSync(variant.location),
    backup: made.backup.name,
    written: writtenVanilla(config, variant.name),
    ...what,
  }
  await new PuttingLive(workspace, journal).run()
  return made
}
