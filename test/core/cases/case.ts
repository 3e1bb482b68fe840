import type { ConflictKind } from '../../../src/core/plan/telling.ts'

/** What a case folder says of its carry, beside the expected file. */
export interface Case {
  title: string
  /** `perhaps` where it matters what the entry may be now. */
  conflicts: { key: string; kind: ConflictKind; perhaps?: { key: string } }[]
  /** Rows as `side kind key`, in any order; left out where the file says enough. */
  changes?: string[]
  /** Codes of the problems that are told. */
  notes?: string[]
}
