import { createHash } from 'node:crypto'
import type { CarryReport, FileReport } from '../../core/report/report.ts'
import { groupChanges } from '../../core/grouping/group.ts'
import type { DraftFile, DraftGroup, DraftRecord } from './draft.ts'

/** What a record says of one file's content. */
export type FileFacts = Pick<DraftFile, 'live' | 'written' | 'mine'> &
  Partial<Pick<DraftFile, 'kept' | 'old'>>

/** What a report has for the record of a draft. */
export function recordedFiles(
  report: CarryReport,
  factsOf: (path: string, was: string | undefined) => FileFacts,
): DraftFile[] {
  return report.files.map((file) => recordedFile(file, factsOf(file.path, file.was)))
}

/** One file of a report as a record has it. */
export function recordedFile(file: FileReport, facts: FileFacts): DraftFile {
  const { path, outcome, was, conflicts, changes } = file
  return {
    path,
    outcome,
    ...(was === undefined ? {} : { was }),
    ...facts,
    conflicts: conflicts.map((conflict) => ({
      ...conflict,
      together: conflict.together === undefined ? undefined : [...conflict.together],
    })),
    closed: changes.filter(({ by }) => by === 'decision').map((change) => ({ ...change })),
  }
}

/** The changes of vanilla in a report, alike ones together. */
export function recordedGroups(report: CarryReport): DraftGroup[] {
  const files = report.files.map(({ path, changes }) => ({
    path,
    changes: changes.filter(({ side, by }) => side === 'vanilla' && by === undefined),
  }))
  return groupChanges(files.filter(({ changes }) => changes.length > 0)).map((group) => {
    const hash = createHash('sha256')
    for (const { changes } of group.parts)
      for (const { path, key, kind, old, new: fresh } of changes)
        hash.update(JSON.stringify([path, key, kind, old, fresh]))
    const { path, pattern, kind, count } = group
    return { path, pattern, kind, count, rows: hash.digest('hex') }
  })
}

/** What told entries apart in each file. */
export function recordedIdentities(report: CarryReport): DraftRecord['identities'] {
  return Object.fromEntries(
    report.files.flatMap(({ path, reading }) =>
      reading === undefined || reading.identities.size === 0
        ? []
        : [[path, Object.fromEntries(reading.identities)]],
    ),
  )
}
