import type { Finding } from '../report/finding.ts'
import type { LocatedProblem } from '../report/report.ts'

/** What the checks of a folder found. */
export interface CheckedFolder {
  /** The variant whose files these are; undefined for a folder of its own. */
  variant: string | undefined
  /** The draft that was checked; undefined where it is not one. */
  draft: string | undefined
  folder: string
  files: number
  /** How many checks of the config were made. */
  checks: number
  findings: Finding[]
  problems: LocatedProblem[]
}
