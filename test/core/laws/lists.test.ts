import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { expectListLaws, expectNoGuess, expectNothingLost, LONG, SHORT } from './list-laws.ts'
import type { Family } from './lists.ts'
import { FAMILIES, LISTS, listStory, written } from './lists.ts'
import { RUNS } from './runs.ts'

describe.each(LISTS)('lists of $family.name in $format', ({ format, family }) => {
  test('nothing is guessed, lost, or changed by a repeated carry', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => expectListLaws(family, format, seed, SHORT)),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 2) },
    )
    const few = { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 75) }
    fc.assert(
      fc.property(fc.nat(), (seed) => expectListLaws(family, format, seed, LONG)),
      few,
    )
  })
})

test('an oracle that knows the entries sees a wrong result', () => {
  const [family] = FAMILIES
  const story = listStory(1, family as Family, SHORT)
  const wrong = { text: written(story.old, 'json'), conflicts: [] } as unknown as CarriedText
  expect(() => expectNothingLost(story, wrong)).toThrow()
  expect(() => expectNoGuess({ ...story, mustAsk: false }, 'json', wrong)).toThrow()
})
