import type { Change, Conflict } from '../core/report/ledger.ts'
import type { CarryReport, FileReport, LocatedProblem } from '../core/report/report.ts'
import { totalCounts } from '../core/report/report.ts'
import type { CarryDocument, FailureDocument } from './carry-document.ts'
import { findingJson } from './finding-json.ts'
import { explanationJson } from './explain-view.ts'

/** How a carry was called, and what comes next. */
export type CarryCall = Pick<CarryDocument, 'dryRun' | 'inputs' | 'out' | 'next'>

/** A carry as its JSON document. @param explain the key that is to be explained */
export function carryJson(
  report: CarryReport,
  { dryRun, inputs, out, next }: CarryCall,
  explain?: string,
): CarryDocument {
  const explained = explain === undefined ? undefined : explanationJson(report, explain)
  return {
    command: 'carry',
    schema: 1,
    dryRun,
    inputs,
    out,
    ...(explained === undefined ? {} : { explain: explained }),
    counts: totalCounts(report.files),
    files: report.files.map(plainFile),
    findings: (report.findings ?? []).map(findingJson),
    problems: report.problems.map((each) => ({
      ...plainProblem(each),
      path: each.path === '' ? null : each.path,
    })),
    next: [...next],
  }
}

/** A file without what is told of one key in words alone. */
function plainFile(report: FileReport): CarryDocument['files'][number] {
  const { reading, ...file } = report
  delete file.explained
  delete file.recalled
  return {
    ...file,
    changes: file.changes.map(plainChange),
    conflicts: file.conflicts.map(withoutInside),
    problems: file.problems.map(plainProblem),
    ...(reading === undefined
      ? {}
      : { reading: { ...reading, identities: Object.fromEntries(reading.identities) } }),
  }
}

/** A problem as JSON documents have it: the shown line left out. */
export function plainProblem({
  severity,
  code,
  message,
  line,
  column,
  input,
  hint,
}: LocatedProblem): CarryDocument['files'][number]['problems'][number] {
  return { severity, code, message, hint: hint ?? null, line, column, input }
}

/** What kept a command from its work, as its JSON document. */
export function failureJson(
  command: string,
  problem: Omit<LocatedProblem, 'severity'>,
  next: readonly string[] = [],
): FailureDocument {
  const { path, ...rest } = problem
  const plain = plainProblem({ ...rest, path, severity: 'error' })
  const problems = [{ ...plain, path: path === '' ? null : path }]
  return { command, schema: 1, problems, next: [...next] }
}

/** A change without the places that are told of it in words alone. */
function plainChange(change: Change): CarryDocument['files'][number]['changes'][number] {
  const { wasConflict, ...plain } = change
  delete plain.at
  return wasConflict === undefined ? plain : { ...plain, 'was-conflict': wasConflict }
}

/** A conflict without what is told of the inside of its entry in words alone. */
function withoutInside(conflict: Conflict): CarryDocument['files'][number]['conflicts'][number] {
  const { together, ...plain } = conflict
  delete plain.inside
  delete plain.takesBoth
  return together === undefined ? plain : { ...plain, together: [...together] }
}
