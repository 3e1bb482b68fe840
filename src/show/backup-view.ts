import type { Backup, BackupMade, WipedEdit } from '../core/facts/backup.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { clip, count, pad, wrap } from './text.ts'
import { shownAge, shownBytes, shownTime } from './units.ts'

export interface BackupDone {
  made: BackupMade[]
  /** Older ones that were removed, since that was asked. */
  thinned: Backup[]
  /** How many older ones stay, since they hold the kept copy of a file. */
  spared: number
  /** Variants that could not be backed up, and why. */
  failed: { variant: string; code: string; message: string }[]
}

/** What was backed up, and where it is. */
export function showBackup(
  { made, thinned, spared, failed }: BackupDone,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const lines = made.flatMap(({ backup, notHeld, wiped, wipedIn }) => [
    paint.strong(
      `Backed up ${backup.variant}: ${count(backup.files, 'file')}, ${shownBytes(backup.bytes)}`,
    ),
    ...wrap(`in ${backup.location}`, width, '  '),
    ...wrap('A plain folder: what it holds can be copied back without any program.', width, '  '),
    ...(wiped.length === 0
      ? []
      : wrap(wipedWords(backup, wiped, wipedIn), width, '  ').map((line) => paint.open(line))),
    ...notHeld.flatMap(({ path, message }) =>
      wrap(`${path}  ${message}`, width, '    ').map((line) => paint.quiet(line)),
    ),
  ])
  for (const { variant, message } of failed)
    lines.push(
      ...wrap(`NOT backed up: ${variant}. ${message}`, width, '').map((line) => paint.open(line)),
    )
  if (thinned.length > 0) lines.push(`Removed ${count(thinned.length, 'older backup')}.`)
  if (spared > 0)
    lines.push(
      ...wrap(
        `Kept ${count(spared, 'older backup')}: no newer one has the edits that ${spared === 1 ? 'it holds' : 'they hold'}.`,
        width,
        '',
      ),
    )
  return `${[...lines, ...showNext(next, width)].join('\n')}\n`
}

/** What is gone from a folder that was just backed up, and which backup has it. */
export function wipedWords(
  { variant }: Backup,
  wiped: readonly WipedEdit[],
  wipedIn: Backup | undefined,
): string {
  const are = wiped.length === 1 ? 'is' : 'are'
  const where =
    wipedIn === undefined ? '' : `; the copy of ${shownTime(new Date(wipedIn.at))} has them`
  return `${count(wiped.length, 'edit')} ${are} gone from what you just backed up${where}. If that is on purpose: anagnosis backup ${variant} --as-it-is`
}

/** All backups, the newest first. */
export function showBackups(
  backups: readonly Backup[],
  now: Date,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  if (backups.length === 0)
    return `${['There are no backups yet.', ...showNext(next, width)].join('\n')}\n`
  const bytes = backups.reduce((sum, backup) => sum + backup.bytes, 0)
  const names = Math.min(44, Math.max(...backups.map(({ name }) => name.length)))
  const lines = backups.flatMap((backup) => {
    const size = `${count(backup.files, 'file')}, ${shownBytes(backup.bytes)}`
    const at = new Date(backup.at)
    return [
      clip(`  ${pad(backup.name, names)}  ${shownTime(at)}, ${shownAge(at, now)}`, width),
      clip(`      ${backup.folder}, made from ${backup.vanilla}: ${size}`, width),
    ]
  })
  const head = `${count(backups.length, 'backup')}, ${shownBytes(bytes)} in all, the newest first`
  const where = wrap(
    `Each is a plain folder in ${folderOf(backups[0]?.location ?? '')}`,
    width,
    '  ',
  )
  return `${[paint.strong(head), ...where, '', ...lines, ...showNext(next, width)].join('\n')}\n`
}

function folderOf(location: string): string {
  return location.replace(/[/\\][^/\\]*$/, '')
}
