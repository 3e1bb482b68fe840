import type { Finding } from './finding.ts'
import type { Recalled } from './remembered.ts'
import type { Position } from '../document/line-map.ts'
import type { Severity } from '../document/problem.ts'
import type { FormatName } from '../formats/format.ts'
import type { Explained } from './explained.ts'
import type { Outcome } from './file-fate.ts'
import type { Change, Conflict } from './ledger.ts'
import type { InputName } from '../plan/telling.ts'

/** A problem with its place for people, and the line itself to show it in. */
export interface LocatedProblem {
  severity: Severity
  code: string
  message: string
  /** Relative, with `/`; empty where the problem is of no file. */
  path: string
  line: number | null
  column: number | null
  input: InputName | null
  /** The line as it stands, and how many code units of it are meant. */
  text?: string
  width?: number
  hint?: string
  related?: Position & { text: string; message: string }
}

/** A problem of a file as a whole, which has no place in it. */
export function fileProblem(
  path: string,
  said: Pick<LocatedProblem, 'severity' | 'code' | 'message' | 'hint'>,
): LocatedProblem {
  return { ...said, path, line: null, column: null, input: null }
}

/** How many keys there are of each sort. Disjoint; together every key in which new or mine differs from old. */
export interface Counts {
  edits: number
  vanillaChanges: number
  both: number
  conflicts: number
  decided: number
}

export interface FileReport {
  path: string
  /** The path it had in old, where it was renamed. */
  was?: string
  /** The format by which the file was merged; `text` by lines; `other` where it was taken whole. */
  format: FormatName | 'text' | 'other'
  outcome: Outcome
  counts: Counts
  changes: Change[]
  conflicts: Conflict[]
  problems: LocatedProblem[]
  /** How the file was read, so that a wrong guess is seen; absent where it was not read. */
  reading?: Reading
  /** What the file has at the key that is to be explained; absent where none is, or none can be in this file. */
  explained?: Explained
  /** What became of what was decided for this file before; absent where nothing was. */
  recalled?: Recalled
}

export interface Reading {
  encoding: string
  /** The dialect that vanilla's files show, in a few words; empty where it is the plain one. */
  dialect: string
  /** Place to the identity that tells the entries there apart. */
  identities: ReadonlyMap<string, string>
}

/** The codes of problems that are faults of the program itself. */
export const RESULT_DOES_NOT_READ = 'carry/result-does-not-read'
export const FAULT = 'carry/fault'

/** Whether a file is as mine had it because the program failed at it. */
export function isFaulty({ problems }: FileReport): boolean {
  return problems.some(({ code }) => code === RESULT_DOES_NOT_READ || code === FAULT)
}

export interface CarryReport {
  files: FileReport[]
  /** Problems that are of no single file. */
  problems: LocatedProblem[]
  /** What two sides broke together. */
  findings?: readonly Finding[]
}

/** The report of one file, with what there is to tell of it. */
export function fileReport(
  file: Pick<FileReport, 'path' | 'format' | 'outcome'>,
  told: Partial<
    Pick<FileReport, 'changes' | 'conflicts' | 'problems' | 'reading' | 'explained'>
  > = {},
): FileReport {
  const { changes = [], conflicts = [], problems = [], reading, explained } = told
  return {
    ...file,
    counts: countsOf(changes, conflicts),
    changes,
    conflicts,
    problems,
    ...(reading === undefined ? {} : { reading }),
    ...(explained === undefined ? {} : { explained }),
  }
}

/** Disjoint: a row that was a conflict is counted as decided, and not for its side. */
export function countsOf(changes: readonly Change[], conflicts: readonly Conflict[]): Counts {
  const rows = changes.filter(({ wasConflict }) => wasConflict === undefined)
  const of = (side: Change['side']): number => rows.filter((row) => row.side === side).length
  return {
    edits: of('mine'),
    vanillaChanges: of('vanilla'),
    both: of('both'),
    conflicts: conflicts.length,
    decided: changes.length - rows.length,
  }
}

/** The counts of all files, and how many files there are and how many could not be read. */
export function totalCounts(
  files: readonly FileReport[],
): Counts & { files: number; unread: number } {
  const total = {
    files: files.length,
    unread: 0,
    edits: 0,
    vanillaChanges: 0,
    both: 0,
    conflicts: 0,
    decided: 0,
  }
  for (const { outcome, counts } of files) {
    if (outcome === 'unread') total.unread++
    total.edits += counts.edits
    total.vanillaChanges += counts.vanillaChanges
    total.both += counts.both
    total.conflicts += counts.conflicts
    total.decided += counts.decided
  }
  return total
}
