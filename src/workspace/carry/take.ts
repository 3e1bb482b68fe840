import type { Outcome } from '../../core/report/file-fate.ts'
import type { Change } from '../../core/report/ledger.ts'
import { settledRow } from '../../core/report/ledger.ts'
import type { FileReport, LocatedProblem } from '../../core/report/report.ts'
import { countsOf, fileProblem } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW } from '../../core/document/sides.ts'
import type { Take } from '../config/config.ts'
import type { CarriedFile, FileInput } from './file-input.ts'
import { same } from './file-input.ts'

/** `take`: the file of one side, with what it costs told row by row. */
export function taken(
  input: FileInput,
  take: 'vanilla' | 'mine',
  compared: FileReport,
): CarriedFile {
  const [old, fresh, mine] = input.bytes
  const own = old === undefined && fresh === undefined
  const side =
    take === 'vanilla' ? (own ? MINE : NEW) : old === undefined && mine === undefined ? NEW : MINE
  const bytes = input.bytes[side]
  const by = `take: ${take}`
  const standing = side === NEW ? 'new' : 'mine'
  const changes = compared.changes.map((change) =>
    change.result === change[standing] ? change : { ...change, result: change[standing], by },
  )
  const stands = side === NEW ? 'vanilla' : 'mine'
  const settledConflicts = compared.conflicts.map((conflict) =>
    settledRow(conflict, { by, stands }),
  )
  const outcome = takenOutcome(input.bytes, bytes, side === NEW)
  const rows = [...changes, ...settledConflicts]
  const problems = droppedNote(input, take, changes, settledConflicts)
  const { path, format } = compared
  const told = {
    path,
    format,
    outcome,
    counts: countsOf(rows, []),
    changes: rows,
    conflicts: [],
    problems,
  }
  return { report: told, bytes }
}

function takenOutcome(
  inputs: Triple<Buffer | undefined>,
  bytes: Buffer | undefined,
  vanilla: boolean,
): Outcome {
  const [old, fresh, mine] = inputs
  if (bytes === undefined) return 'removed'
  if (old !== undefined && same(old, fresh) && same(fresh, mine)) return 'same'
  if (vanilla) return old === undefined && mine === undefined ? 'added' : 'vanilla'
  return 'mine'
}

function droppedNote(
  input: FileInput,
  take: Take,
  changes: readonly Change[],
  settledConflicts: readonly Change[],
): LocatedProblem[] {
  const lost = changes.filter((change) => change.by !== undefined).length + settledConflicts.length
  if (lost === 0) return []
  const whose = take === 'vanilla' ? 'edits of yours are' : 'changes of vanilla are'
  return [
    fileProblem(input.path, {
      severity: 'note',
      code: `carry/take-${take}`,
      message: `${lost} ${whose} not in the result, since the config says take: ${take}`,
    }),
  ]
}
