import type { Habit } from '../grouping/habits.ts'
import type { Question } from '../grouping/questions.ts'
import type { LocatedProblem } from '../report/report.ts'

/** A key that was decided. */
export interface ClosedKey {
  /** The name of the conflict that it was; null where nothing was in question. */
  id: string | null
  path: string
  key: string
  take: string
  result: string | null
}

/** A key of an entry that differs, in all three inputs and in the draft. */
export interface SheetRow {
  key: string
  old: string | null
  new: string | null
  mine: string | null
  result: string | null
}

/** The entry that a question is about: its keys that differ, and how many agree. */
export interface Sheet {
  entry: string
  rows: SheetRow[]
  same: number
}

/** An open question, with the entry of its first key. */
export interface OpenQuestion extends Question {
  sheet?: Sheet | undefined
}

/** Where a draft stands: what is open, what was decided. */
export interface SettleState {
  variant: string
  from: string
  to: string
  draft: string
  questions: OpenQuestion[]
  habits: readonly Habit[]
  /** How many keys are open, and how many groups of changes nobody looked at. */
  open: number
  notLookedAt: number
  /** How many keys are decided in this draft. */
  closedInAll: number
  /** What this call decided; with `--list` all that was decided. */
  closed: ClosedKey[]
  notApplied: { path: string; key: string; why: string }[]
  /** What this call marked as looked at, in groups. */
  lookedAt: number
  problems: LocatedProblem[]
}
