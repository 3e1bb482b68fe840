import assert from 'node:assert/strict'
import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Thresholds } from '../../../src/core/document/thresholds.ts'
import { THRESHOLDS } from '../../../src/core/document/thresholds.ts'

const allAt = (size: number): Thresholds => ({
  readAfter: size,
  readAfterEntry: size,
  readAfterInside: size,
  untouched: size,
  oneSided: size,
})

/** Every short way is taken, however little there is; and none is. */
export const ALL_WAYS = allAt(0)
export const NO_WAYS = allAt(Infinity)

/** A carry that takes no short way; one that takes every, and the program's own, must come to the same. */
export function carryInAllWays(
  texts: Parameters<typeof carryText>[0],
  options: CarryOptions,
  ways: readonly Thresholds[] = [ALL_WAYS, THRESHOLDS],
): CarriedText {
  const plain = carryText(texts, { ...options, thresholds: NO_WAYS })
  for (const thresholds of ways) {
    const short = carryText(texts, { ...options, thresholds })
    assert.equal(short.text, plain.text)
    assert.deepEqual(short, plain)
    assert.deepEqual([...short.identities], [...plain.identities])
  }
  return plain
}
