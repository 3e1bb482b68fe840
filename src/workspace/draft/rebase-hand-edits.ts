import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { FileReport, LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { carryFile } from '../carry/carry-file.ts'
import { asMerged } from '../carry/merged-report.ts'
import { decidedReport, wholeValues } from '../carry/whole-decision.ts'
import { ruleFor } from '../config/file-rule.ts'
import type { FileTree } from '../tree.ts'
import type { Workspace } from '../workspace.ts'
import type { Decided } from './decisions.ts'
import type { Draft } from './draft.ts'
import { inputBytes } from './key-values.ts'

/** A file of which all was edited by hand, brought onto what a new carry made of it. */
interface Rebased {
  decision: Decided
  bytes: Buffer
  notes: LocatedProblem[]
}

/**
 * Brings edits by hand that no key tells onto the result of a new carry: three-way, from the draft that they were
 * made in. Where both changed the same key, what was written by hand stands, and that is told.
 *
 * @param open the draft that was edited
 * @param result where the files of the new draft are; they are read only
 */
export async function rebasedHandEdit(
  workspace: Workspace,
  open: Draft,
  decision: Decided,
  result: { location: string; trees: Triple<FileTree>; file: FileReport; to: string },
): Promise<Rebased | undefined> {
  const { path, value } = decision
  const [before, now] = [
    join(workspace.layout.draftWritten(open.name), path),
    join(result.location, path),
  ]
  if (value === undefined || !existsSync(before) || !existsSync(now)) return undefined
  const { report, bytes } = await carryFile({
    path,
    bytes: [readFileSync(before), readFileSync(now), Buffer.from(value, 'utf8')],
    rule: asMerged(ruleFor(workspace.config, path)),
    format: undefined,
  })
  if (bytes === undefined || report.outcome === 'unread') return undefined
  const [old, fresh, mine] = inputBytes(result.trees, path, result.file.was)
  const values = wholeValues([old, fresh, mine])
  const text = bytes.toString('utf8')
  const notes = report.conflicts.map(({ key }) =>
    fileProblem(path, {
      severity: 'warning',
      code: 'draft/hand-edit-stands',
      message: `${key === '' ? 'the file' : key}: vanilla changed this since you edited the draft by hand; your edit stands`,
    }),
  )
  return { decision: { ...decision, ...values, value: text, to: result.to }, bytes, notes }
}

/** A report of a file that is as somebody edited it by hand, and what of it that closed. */
export function rebasedReport(
  file: FileReport,
  decision: Decided,
): { report: FileReport; notes: LocatedProblem[] } {
  const asked = file.conflicts.length
  const report: FileReport = {
    ...decidedReport(file, decision),
    recalled: { applied: [decision], earlier: [], notApplied: [] },
  }
  if (asked === 0) return { report, notes: [] }
  const note = fileProblem(file.path, {
    severity: 'warning',
    code: 'draft/hand-edit-stands',
    message: `${asked} of its keys would be in question; the file is as you edited it by hand`,
    hint: 'look through the file in the draft',
  })
  return { report, notes: [note] }
}
