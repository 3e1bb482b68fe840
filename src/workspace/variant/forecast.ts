import type { Forecast, LostEdits } from '../../core/facts/carried.ts'
import { isDroppedEdit } from '../../core/report/ledger.ts'
import type { CarryReport } from '../../core/report/report.ts'
import { totalCounts } from '../../core/report/report.ts'

/** What becomes of the operator's edits in a carry. */
export function forecastOf(report: CarryReport): Forecast {
  const { edits, both, conflicts, decided } = totalCounts(report.files)
  const policy = keysWhere(report, ({ changes }) => changes.filter(isDroppedEdit))
  const gone = keysWhere(report, (file) =>
    file.conflicts.filter(({ kind }) => kind === 'gone-in-vanilla'),
  )
  const unread = report.files.filter(({ outcome }) => outcome === 'unread').map(({ path }) => path)
  const all: LostEdits[] = [
    { why: 'policy', count: policy.length, keys: policy },
    { why: 'gone', count: gone.length, keys: gone },
    { why: 'unread', count: unread.length, keys: unread },
  ]
  return {
    carry: edits + both + decided - policy.length,
    ask: conflicts - gone.length,
    lost: all.filter(({ count }) => count > 0),
  }
}

function keysWhere(
  { files }: CarryReport,
  rowsOf: (file: CarryReport['files'][number]) => readonly { key: string }[],
): string[] {
  return files.flatMap((file) => rowsOf(file).map(({ key }) => `${file.path}: ${key}`))
}
