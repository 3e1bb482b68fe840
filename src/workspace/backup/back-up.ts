import type { Backup, BackupMade } from '../../core/facts/backup.ts'
import { refuseUnfinished } from '../deliver/journal.ts'
import { keptIn, mineOf } from '../variant/mine.ts'
import type { Variant, Workspace } from '../workspace.ts'
import type { BackupOptions } from './backup.ts'
import { listBackups, makeBackup, thinBackups } from './backup.ts'

/** Backs up the live folder of a variant, and tells which edits are gone from it since they were last kept. */
export async function backUp(
  workspace: Workspace,
  variant: Variant,
  options: BackupOptions,
): Promise<BackupMade> {
  refuseUnfinished(workspace.layout, variant.name)
  const made = await makeBackup(workspace, variant, options)
  if (options.asItIs === true) return made
  const { wiped, wipedIn } = await mineOf(workspace, variant, { signal: options.signal })
  return { ...made, wiped, wipedIn }
}

/** Removes older backups of a variant, but those that hold the kept copy of a file. */
export async function thinOld(
  workspace: Workspace,
  variant: Variant,
  keep: number,
): Promise<{ removed: Backup[]; spared: number }> {
  const kept = await keptIn(workspace, variant)
  const old = (await listBackups(workspace.layout, variant.name)).slice(keep)
  const isSpared = (name: string): boolean => kept.has(name)
  const removed = await thinBackups(workspace, variant.name, keep, isSpared)
  return { removed, spared: old.length - removed.length }
}
