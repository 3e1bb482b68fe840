import type { Backup } from '../core/facts/backup.ts'
import type { Overview } from '../core/facts/overview.ts'
import type { SetupDone } from '../core/facts/setup.ts'
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
  { made, thinned, failed }: BackupDone,
  next: readonly string[],
): BackupDocument {
  return {
    command: 'backup',
    schema: 1,
    backups: made.map(({ backup }) => backup),
    removed: thinned,
    problems: [
      ...failed.map(({ variant, code, message }) =>
        problemOf('error', code, `${variant}: ${message}`, null),
      ),
      ...made.flatMap(({ notHeld }) =>
        notHeld.map(({ path, message }) => problemOf('warning', 'backup/not-held', message, path)),
      ),
    ],
    next: [...next],
  }
}

export function backupsJson(backups: readonly Backup[], next: readonly string[]): BackupsDocument {
  return { command: 'backup list', schema: 1, backups: [...backups], problems: [], next: [...next] }
}

export function setupJson(done: SetupDone, next: readonly string[]): SetupDocument {
  const { variant, config, hasVanilla, policies, backup, care, taken } = done
  const { name, folder, vanilla } = variant
  return {
    command: 'setup',
    schema: 1,
    config,
    variant: { name, folder, vanilla },
    inStore: hasVanilla,
    policies,
    backup: backup?.backup ?? null,
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
      ({ name, folder, isThere, vanilla, vanillaAdded, newer, backups, wiped }) => ({
        name,
        folder,
        there: isThere,
        vanilla,
        vanillaAdded,
        newer,
        agrees: version === undefined ? null : version === vanilla,
        backups,
        wiped,
      }),
    ),
    problems: [],
    next: [...next],
  }
}
