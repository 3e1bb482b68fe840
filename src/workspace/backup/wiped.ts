import type { WipedEdit } from '../../core/facts/backup.ts'
import { carryFile } from '../carry/carry-file.ts'
import type { FileTree } from '../tree.ts'
import { readBytes } from '../tree.ts'

/**
 * Edits that were live when a backup was made and are gone: where the backup differs from the vanilla that
 * it was made from, and the live file does not; all of a live file that is some vanilla's, byte for byte.
 *
 * @param isVanillas whether a file is that of some release
 */
export async function wipedEdits(
  vanilla: FileTree,
  live: FileTree,
  backup: FileTree,
  isVanillas: (path: string, bytes: Buffer) => boolean,
): Promise<WipedEdit[]> {
  const wiped: WipedEdit[] = []
  for (const [path, { kind, location }] of backup) {
    const old = vanilla.get(path)
    const now = live.get(path)
    if (kind !== 'file' || old?.kind !== 'file' || (now !== undefined && now.kind !== 'file'))
      continue
    const kept = readBytes(location)
    const fresh = now === undefined ? undefined : readBytes(now.location)
    if (fresh?.equals(kept) === true) continue
    const bytes = [readBytes(old.location), fresh, kept] as const
    const { report } = await carryFile({
      path,
      bytes: [...bytes],
      rule: undefined,
      format: undefined,
    })
    if (fresh === undefined) {
      // the file is gone as a whole, and with it what was changed in it
      if (report.outcome === 'conflict') wiped.push({ path, key: '', value: null })
      continue
    }
    const gone = report.changes.filter(({ side }) => side === 'mine')
    const overwritten = isVanillas(path, fresh) ? report.conflicts : []
    for (const { key, mine } of [...gone, ...overwritten]) wiped.push({ path, key, value: mine })
  }
  return wiped
}
