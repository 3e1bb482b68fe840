import type { CarryReport } from '../report/report.ts'

/** Edits that a carry would lose, and why. */
export interface LostEdits {
  /** `policy`: a policy takes vanilla's file; `gone`: vanilla dropped the entry; `unread`: the file cannot be read. */
  why: 'policy' | 'gone' | 'unread'
  /** How many; of unread files how many these are. */
  count: number
  /** `path: key` of each. */
  keys: string[]
}

/** What a carry would come to, for the operator's edits. */
export interface Forecast {
  /** Edits that carry without a question. */
  carry: number
  /** Edits that need a decision. */
  ask: number
  lost: LostEdits[]
}

/** A variant that was carried. */
export interface CarriedVariant {
  variant: string
  /** The release that it was made from; `none`, `guess` where that is said. */
  from: string
  to: string
  /** The name of the draft, and where it is; null where nothing was written. */
  draft: { name: string; location: string } | null
  mine: string
  report: CarryReport
  forecast: Forecast
  /** How many edits are gone from live files that stand for mine. */
  gone: number
  /** What somebody edited in the draft before, by its files. */
  handEdited: string[]
}

/** A variant that was refused, and why. */
export interface RefusedVariant {
  variant: string
  code: string
  message: string
  hint: string | null
  exit: number
  next: readonly string[]
}
