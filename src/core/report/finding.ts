import type { Severity } from '../document/problem.ts'

/** The kind of a finding that says that a file is malformed. */
export const WELL_FORMED = 'well-formed'

/** What a check found at one place. */
export interface Finding {
  /** Relative, with `/`; of a folder with one at its end. */
  path: string
  /** The key; empty where a file or a folder as a whole is meant. */
  key: string
  line: number | null
  column: number | null
  /** The kind of the check, such as `in-range`; what a delivery is told to pass over. */
  check: string
  severity: Severity
  message: string
  /** What is expected there, in a few words. */
  expected: string | null
  /** The right value that is nearest to the one that stands there. */
  nearest: string | null
  /** The line as it stands, and how many code units of it are meant. */
  text?: string
  width?: number
}
