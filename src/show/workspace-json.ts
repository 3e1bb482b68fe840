import type { Backup } from '../core/facts/backup.ts'
import type { Overview } from '../core/facts/overview.ts'
import type { SetupDone } from '../core/facts/setup.ts'
import { wipedWords } from './backup-view.ts'
import type { BackupDone } from './backup-view.ts'
import { problemOf } from './command-problem.ts'
import { saysOther } from './vanilla-json.ts'
import type {
  BackupDocument,
  BackupsDocument,
  OverviewDocument,
  SetupDocument,
} from './workspace-document.ts'

export function backupJson(
  { made, thinned, spared, failed }: BackupDone,
  next: readonly string[],
): BackupDocument {
  return {
    command: 'backup',
    schema: 1,
    backups: made.map(({ backup }) => plainBackup(backup)),
    removed: thinned.map(plainBackup),
    spared,
    problems: [
      ...failed.map(({ variant, code, message }) =>
        problemOf('error', code, `${variant}: ${message}`, null),
      ),
      ...made.flatMap(({ backup, wiped, wipedIn }) =>
        wiped.length === 0
          ? []
          : [problemOf('warning', 'backup/wiped', wipedWords(backup, wiped, wipedIn), null)],
      ),
      ...made.flatMap(({ notHeld }) =>
        notHeld.map(({ path, message }) => problemOf('warning', 'backup/not-held', message, path)),
      ),
    ],
    next: [...next],
  }
}

export function backupsJson(backups: readonly Backup[], next: readonly string[]): BackupsDocument {
  return {
    command: 'backup list',
    schema: 1,
    backups: backups.map(plainBackup),
    problems: [],
    next: [...next],
  }
}

export function setupJson(done: SetupDone, next: readonly string[]): SetupDocument {
  const { variant, config, hasVanilla, policies, backup, care, taken, fewOf } = done
  const { name, folder, vanilla } = variant
  return {
    command: 'setup',
    schema: 1,
    config,
    variant: { name, folder, vanilla },
    inStore: hasVanilla,
    sparse: { is: variant.sparse === true, proposed: fewOf ?? null },
    policies,
    backup: backup === undefined ? null : plainBackup(backup.backup),
    care,
    problems: [
      ...(taken?.says === undefined
        ? []
        : [problemOf('warning', 'vanilla/says-other', saysOther(taken.says, vanilla), null)]),
      ...(backup?.notHeld ?? []).map(({ path, message }) =>
        problemOf('warning', 'backup/not-held', message, path),
      ),
    ],
    next: [...next],
  }
}

export function overviewJson(overview: Overview, next: readonly string[]): OverviewDocument {
  const { game, installed, isInstalledKnown, releases, variants } = overview
  const version = installed?.version
  return {
    command: 'overview',
    schema: 1,
    game: game ?? null,
    installed:
      installed === undefined
        ? null
        : { version: version ?? null, at: installed.at, inStore: isInstalledKnown },
    releases,
    variants: variants.map(
      ({
        name,
        folder,
        isThere,
        vanilla,
        vanillaAdded,
        newer,
        backups,
        wiped,
        drafts,
        installed: own,
        lastDelivery,
        newestFile,
      }) => ({
        name,
        folder,
        there: isThere,
        vanilla,
        vanillaAdded,
        newer,
        agrees: agrees((own ?? { version }).version, vanilla),
        backups: backups.map(plainBackup),
        wiped,
        installed: own === undefined ? null : { version: own.version ?? null, at: own.at },
        drafts,
        conflicts: drafts.find(({ state }) => state !== 'delivered')?.open ?? 0,
        lastDelivery: lastDelivery ?? null,
        ...(newestFile === undefined ? {} : { download: newestFile }),
      }),
    ),
    problems: [],
    next: [...next],
  }
}

/** Whether the installed game is of a vanilla; null where that is not known. */
function agrees(version: string | undefined, vanilla: string): boolean | null {
  return version === undefined ? null : version === vanilla
}

/** A backup as JSON documents have it. */
function plainBackup({ asItIs, before, ...backup }: Backup): BackupDocument['backups'][number] {
  return {
    ...backup,
    ...(asItIs ? { asItIs } : {}),
    ...(before === undefined ? {} : { before: before.what }),
  }
}
