import type { CarryReport } from '../../core/report/report.ts'
import { isFaulty, totalCounts } from '../../core/report/report.ts'
import type { ExitCode } from '../failure.ts'
import { EXIT } from '../failure.ts'

/** The exit code of a carry: what is worst in it. */
export function exitOf(report: CarryReport): ExitCode {
  const { unread, conflicts } = totalCounts(report.files)
  if (report.files.some(isFaulty)) return EXIT.unexpected
  if (unread > 0) return EXIT.unread
  return conflicts > 0 || (report.findings ?? []).length > 0 ? EXIT.open : EXIT.done
}
