/**
 * From which size on the program takes a shorter way to the same result. The sizes are the program's own;
 * tests carry with all at 0 and with all at Infinity, where no short way is taken, and compare.
 */
export interface Thresholds {
  /** Code units of a text from which on new and mine are read after old. */
  readAfter: number
  /** Code units of an entry from which on it is compared with old's before it is read. */
  readAfterEntry: number
  /** Code units of an entry that is not the same from which on its inside is compared. */
  readAfterInside: number
  /** Entries of a container from which on those that nobody touched are left out of its merge. */
  untouched: number
  /** Code units of an entry that one side changed from which on its changes are found by a walk. */
  oneSided: number
}

/** What was measured to pay: see docs/performance.md. */
export const THRESHOLDS: Thresholds = {
  readAfter: 1 << 16,
  readAfterEntry: 16,
  readAfterInside: 512,
  untouched: 64,
  oneSided: 0,
}
