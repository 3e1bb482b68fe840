import type { ClosedKey, SettleState } from '../../core/facts/settled.ts'
import { questionsOf } from '../../core/grouping/questions.ts'
import type { Question } from '../../core/grouping/questions.ts'
import type { Conflict } from '../../core/report/ledger.ts'
import type { Draft, DraftFile } from '../draft/draft.ts'
import type { Decisions } from '../draft/decisions.ts'

/** The questions that are open in a draft. */
export function openQuestions({ record }: Draft): Question[] {
  return questionsOf(
    record.files.map(({ path, conflicts, outcome }) => ({
      path,
      conflicts: conflicts as readonly Conflict[], // as reports have them; the record keeps all that they hold
      outcome,
    })),
  )
}

/** What was decided in a draft and made a key of it. */
export function closedKeys({ record }: Draft, decisions: Decisions): ClosedKey[] {
  const takes = new Map(
    decisions.all.map(({ path, key, take, value }) => [
      `${path}\0${key}`,
      value === undefined ? take : `${take}:${value}`,
    ]),
  )
  return record.files.flatMap(({ path, closed }) =>
    closed.map(({ key, id, result }) => ({
      id: id ?? null,
      path,
      key,
      take: takes.get(`${path}\0${key}`) ?? takes.get(`${path}\0`) ?? 'mine',
      result,
    })),
  )
}

/** How many keys and files are open. */
export function openCount({ files }: { files: readonly DraftFile[] }): number {
  return files.reduce(
    (sum, { conflicts, outcome }) => sum + (outcome === 'unread' ? 1 : conflicts.length),
    0,
  )
}

/** How many groups of changes nobody looked at. */
export function notLookedAt({ record: { groups, lookedAt } }: Draft): number {
  return groups.filter(({ rows }) => !lookedAt.includes(rows)).length
}

/** Where a draft stands. */
export function stateOf(
  draft: Draft,
  told: Pick<SettleState, 'closed' | 'closedInAll' | 'notApplied' | 'lookedAt' | 'problems'>,
): SettleState {
  const { record, name } = draft
  return {
    variant: record.variant,
    from: record.from,
    to: record.to,
    draft: name,
    questions: openQuestions(draft),
    habits: record.habits,
    open: openCount(record),
    notLookedAt: notLookedAt(draft),
    ...told,
  }
}
