import { createHash } from 'node:crypto'
import type { InputName } from '../plan/telling.ts'

export const TAKES_OF_DECISIONS = ['vanilla', 'mine', 'both', 'value', 'source', 'onto'] as const
export type DecisionTake = (typeof TAKES_OF_DECISIONS)[number]

/** What stood at a key in the three inputs; a long value stands as its hash. */
export type StoredValues = Record<InputName, string | null>

/** What was decided for a key of one file once, and for which values. */
export interface Remembered extends StoredValues {
  key: string
  /** The name of the conflict, where it was one. */
  id?: string | undefined
  take: DecisionTake
  /** What was said with the take: a value, a text of the source, or a key. */
  value?: string | undefined
}

/** What became of what was remembered. */
export interface Recalled {
  /** Those that made the result. */
  applied: Remembered[]
  /** Those whose key is in question for other values now: the earlier answer. */
  earlier: Remembered[]
  /** All others, and why they made nothing. */
  notApplied: { decision: Remembered; why: string }[]
}

/** Longer values are remembered by their SHA-256; UTF-16 code units. */
const LONGEST_STORED = 2000

/** A value as it is remembered. */
export function storedValue(value: string | null): string | null {
  if (value === null || value.length <= LONGEST_STORED) return value
  return `sha256:${createHash('sha256').update(value).digest('hex')}`
}

/** Values as they are remembered. */
export function storedValues(values: StoredValues): StoredValues {
  return {
    old: storedValue(values.old),
    new: storedValue(values.new),
    mine: storedValue(values.mine),
  }
}

/** Whether a decision was made for these values. */
export function isFor(decision: StoredValues, values: StoredValues): boolean {
  const stored = storedValues(values)
  return (['old', 'new', 'mine'] as const).every((side) => decision[side] === stored[side])
}
