import type { Delivered, Restored } from '../core/facts/delivered.ts'
import { problemOf } from './command-problem.ts'
import type { DeliverDocument, DeliverEachDocument, RestoreDocument } from './deliver-document.ts'

/** A delivery as its JSON document. @param ended how an unfinished one was ended */
export function deliverJson(
  delivered: Delivered,
  next: readonly string[],
  ended?: 'finish' | 'undo',
): DeliverDocument {
  const { variant, draft, dryRun, backup, vanilla, files, same, refusals, leftAlone } = delivered
  const of = (did: string): number => files.filter((file) => file.did === did).length
  return {
    command: 'deliver',
    schema: 1,
    variant,
    draft,
    dryRun,
    despite: delivered.despite,
    backup,
    vanilla,
    counts: { written: of('written'), added: of('added'), removed: of('removed'), same },
    files,
    refusals,
    notLookedAt: delivered.notLookedAt,
    reminders: delivered.reminders,
    ...(ended === undefined ? {} : { ended }),
    parcel: delivered.parcel ?? null,
    ...(delivered.findings === undefined ? {} : { findings: delivered.findings }),
    problems: [
      ...refusals.map(({ code, message, path }) => problemOf('error', code, message, path)),
      ...(delivered.notes ?? []).map(({ code, message }) => problemOf('note', code, message, null)),
      ...leftAlone.map(({ path, message }) =>
        problemOf('warning', 'backup/not-held', message, path),
      ),
    ],
    next: [...next],
  }
}

/** Deliveries of several variants as one JSON document. */
export function deliverEachJson(variants: readonly DeliverDocument[]): DeliverEachDocument {
  return {
    command: 'deliver',
    schema: 1,
    variants: [...variants],
    problems: variants.flatMap(({ problems }) => problems),
    next: variants.flatMap(({ next }) => next),
  }
}

export function restoreJson(restored: Restored, next: readonly string[]): RestoreDocument {
  const { variant, backup, before, vanilla, files } = restored
  return {
    command: 'restore',
    schema: 1,
    variant,
    backup,
    before: before === '' ? null : before,
    vanilla,
    files,
    problems: [],
    next: [...next],
  }
}
