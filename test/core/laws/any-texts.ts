import assert from 'node:assert/strict'
import { createHash } from 'node:crypto'
import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import type { Decision } from '../../../src/core/plan/decide.ts'

// What is asked of a carry whoever wrote its texts, and how all that comes of it is held fast.

/** Law 1: one side's changes alone are taken as they are, and so is what both did alike. */
export function expectRest(
  [old, fresh, mine]: Triple<string>,
  carry: (three: Triple<string>) => CarriedText,
): void {
  const isRest = (three: Triple<string>, wanted: string): void => {
    const { text } = carry(three)
    // with other files as vanilla's the dialect may be another, in which one is malformed
    if (text !== undefined) assert.equal(text, wanted)
  }
  isRest([old, fresh, old], fresh)
  isRest([old, old, mine], mine)
  isRest([old, mine, mine], mine)
}

/** What comes of each answer that all questions of a carry can have; undefined where there is none. */
export function answered(
  { conflicts }: CarriedText,
  carry: (more: Partial<CarryOptions>) => CarriedText,
): (CarriedText | undefined)[] {
  const keys = [...new Set(conflicts.map(({ key }) => key))]
  return (['vanilla', 'mine', 'both'] as const).map((take) => {
    const decisions = keys.map((key): Decision => ({ key, by: 'decision', take }))
    return keys.length === 0 ? undefined : carry({ decisions })
  })
}

export function digestOf(all: readonly unknown[]): string {
  const hash = createHash('sha256')
  for (const each of all) hash.update(JSON.stringify(each))
  return hash.digest('hex').slice(0, 12)
}
