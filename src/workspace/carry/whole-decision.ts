import { createHash } from 'node:crypto'
import type { Recalled, Remembered, StoredValues } from '../../core/report/remembered.ts'
import { settledRow } from '../../core/report/ledger.ts'
import type { Change } from '../../core/report/ledger.ts'
import { countsOf } from '../../core/report/report.ts'
import type { FileReport } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, SIDE_NAMES, triple } from '../../core/document/sides.ts'
import type { CarriedFile, FileInput } from './file-input.ts'

/** The contents of a file as a decision for all of it remembers them: their hashes. */
export function wholeValues(bytes: Triple<Buffer | undefined>): StoredValues {
  const [old, fresh, mine] = triple((side) => {
    const each = bytes[side]
    return each === undefined ? null : `sha256:${createHash('sha256').update(each).digest('hex')}`
  })
  return { old, new: fresh, mine }
}

/**
 * Applies what was decided for a file as a whole: where it is in question, where it could not be read, and where it
 * was edited by hand in a way that no key tells.
 *
 * @param bytes what the three inputs hold
 */
export function withWholeDecision(
  input: FileInput,
  bytes: Triple<Buffer | undefined>,
  carried: CarriedFile,
): CarriedFile {
  const decision = input.remembered?.find(({ key }) => key === '')
  if (decision === undefined) return carried
  const recalled: Recalled = carried.recalled ?? { applied: [], earlier: [], notApplied: [] }
  const { report } = carried
  const conflict = report.conflicts.find(({ key }) => key === '')
  const isSame =
    conflict !== undefined && decision.id !== undefined
      ? conflict.id === decision.id
      : isFor(decision, bytes)
  if (!isSame) {
    if (conflict !== undefined || report.outcome === 'unread')
      return { ...carried, recalled: { ...recalled, earlier: [...recalled.earlier, decision] } }
    if (isLive(decision, bytes[MINE])) return carried
    const not = { decision, why: 'the file is another one now' }
    return { ...carried, recalled: { ...recalled, notApplied: [...recalled.notApplied, not] } }
  }
  const chosen = chosenBytes(decision, bytes)
  const why = 'the whole file is as you decided it'
  const notApplied = recalled.applied.map((each) => ({ decision: each, why }))
  return {
    report: decidedReport(report, decision),
    bytes: chosen,
    recalled: {
      applied: [decision],
      earlier: [],
      notApplied: [...recalled.notApplied, ...notApplied],
    },
  }
}

/** Whether mine is what somebody made of the file by hand: it was put live since. */
function isLive({ take, value = '' }: Remembered, mine: Buffer | undefined): boolean {
  return take === 'source' && mine?.equals(Buffer.from(value, 'utf8')) === true
}

function isFor(decision: Remembered, bytes: Triple<Buffer | undefined>): boolean {
  const values = wholeValues(bytes)
  return SIDE_NAMES.every((side) => decision[side] === values[side])
}

function chosenBytes(
  { take, value = '' }: Remembered,
  bytes: Triple<Buffer | undefined>,
): Buffer | undefined {
  if (take === 'vanilla') return bytes[NEW]
  return take === 'source' || take === 'value' ? Buffer.from(value, 'utf8') : bytes[MINE]
}

/** A report in which all that was in question is settled by a decision for the file. */
export function decidedReport(report: FileReport, { take }: Remembered): FileReport {
  const by = 'decision'
  const stands = take === 'vanilla' || take === 'mine' ? take : { text: '' }
  const settled = report.conflicts.map((conflict) => {
    const row = settledRow(conflict, { by, stands })
    return conflict.key === '' ? { ...row, result: null } : row
  })
  const isTold = report.conflicts.some(({ key }) => key === '')
  const changes = [...report.changes, ...settled, ...(isTold ? [] : [wholeRow(take)])]
  const problems = report.problems.map((problem) =>
    problem.severity === 'error' ? { ...problem, severity: 'warning' as const } : problem,
  )
  const outcome = take === 'vanilla' ? 'vanilla' : take === 'mine' ? 'mine' : 'merged'
  return { ...report, outcome, changes, conflicts: [], problems, counts: countsOf(changes, []) }
}

function wholeRow(take: Remembered['take']): Change {
  const values = { old: null, new: null, mine: null, result: null }
  const side = take === 'vanilla' ? 'vanilla' : 'mine'
  return { key: '', side, kind: 'changed', by: 'decision', ...values }
}
