import type { Outcome } from '../../core/report/file-fate.ts'
import type { CarryReport, LocatedProblem } from '../../core/report/report.ts'
import { fileProblem, totalCounts } from '../../core/report/report.ts'

/** From so many keys on that mine and new have alike, against old, ... */
const LEAST_ALIKE = 5
/** ... and so many times as many as mine and old have, the inputs look exchanged. */
const FAR_MORE = 4

/** What is to be said where the inputs are the same, or look exchanged. */
export function inputsAlike(report: CarryReport): LocatedProblem[] {
  const said = words(report)
  if (said === undefined) return []
  return [fileProblem('', { severity: 'warning', code: 'carry/inputs-alike', ...said })]
}

function words(report: CarryReport): { message: string; hint: string } | undefined {
  const { files, edits, vanillaChanges, both, conflicts, decided, unread } = totalCounts(
    report.files,
  )
  if (files === 0 || unread > 0) return undefined
  const isSame = report.files.every(({ outcome }) => outcome === 'same')
  if (isSame)
    return {
      message: 'old, new and yours are all the same: there is nothing to carry',
      hint: 'see whether the right folders are named',
    }
  const asked = conflicts + decided
  if (vanillaChanges + both + asked === 0 && only(report, ['same', 'mine', 'removed']))
    return {
      message: 'old and new hold the same: the update changed no key',
      hint: 'see whether --new names the new vanilla',
    }
  if (
    edits + both + asked === 0 &&
    only(report, ['same', 'vanilla', 'added', 'removed', 'renamed'])
  )
    return {
      message: 'yours and old hold the same: there is no edit to carry',
      hint: 'see whether --mine names the customised files, and whether something reset them',
    }
  if (both >= LEAST_ALIKE && both >= FAR_MORE * (vanillaChanges + 1))
    return {
      message: `what you have is far more like new than like old (${both} keys against ${vanillaChanges})`,
      hint: 'see whether --old and --new are exchanged, or yours were made from new already',
    }
  return undefined
}

/** Whether all files came to one of these: a file that was merged may differ in its comments alone. */
function only({ files }: CarryReport, outcomes: readonly Outcome[]): boolean {
  return files.every(({ outcome }) => outcome === 'left-out' || outcomes.includes(outcome))
}
