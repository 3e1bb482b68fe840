import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { triple } from '../../../src/core/document/sides.ts'
import { FORMAT_NAMES, formatNamed } from '../../../src/core/formats/index.ts'
import { expectListLaws, expectNoGuess, expectNothingLost, LONG, SHORT } from './list-laws.ts'
import type { Family } from './lists.ts'
import { canHold, FAMILIES, listStory, written } from './lists.ts'
import { RUNS } from './runs.ts'

const all = FORMAT_NAMES.flatMap((format) =>
  FAMILIES.filter((family) => canHold(format, family)).map((family) => ({ format, family })),
)

describe.each(all)('lists of $family.name in $format', ({ format, family }) => {
  test('nothing is guessed, lost, or changed by a repeated carry', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => expectListLaws(family, format, seed, SHORT)),
      { ...RUNS, numRuns: RUNS.numRuns / 2 },
    )
    const few = { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 100) }
    fc.assert(
      fc.property(fc.nat(), (seed) => expectListLaws(family, format, seed, LONG)),
      few,
    )
  })
})

/** Lists in which hardly anything stands once: nobody can tell for sure what moved and what was replaced. */
const repeated = fc.array(fc.constantFrom('kelp', 'rope', 'tar'), { maxLength: 4 })

test('short lists of repeated values: each way round it is asked, a repeated carry changes nothing', () => {
  const carry = (...lists: [old: string[], fresh: string[], mine: string[]]): CarriedText =>
    carryText(
      triple((side) => JSON.stringify({ hold: lists[side] })),
      { format: formatNamed('json'), path: 'hold.json' },
    )
  fc.assert(
    fc.property(repeated, repeated, repeated, (old, fresh, mine) => {
      const carried = carry(old, fresh, mine)
      const { hold } = JSON.parse(carried.text ?? '') as { hold: string[] }
      expect(carry(old, fresh, hold).text).toBe(carried.text)
      const isAsked = carried.conflicts.length > 0
      expect(carry(old, mine, fresh).conflicts.length > 0).toBe(isAsked)
      if (isAsked) return
      for (const value of new Set(hold)) {
        const [was, inNew, inMine, is] = [old, fresh, mine, hold].map(
          (list) => list.filter((each) => each === value).length,
        ) as [number, number, number, number]
        const [byNew, byMine] = [inNew - was, inMine - was]
        expect(is).toBeLessThanOrEqual(was + Math.max(0, byNew) + Math.max(0, byMine))
        expect(is).toBeGreaterThanOrEqual(was + Math.min(0, byNew) + Math.min(0, byMine))
      }
    }),
    {
      ...RUNS,
      numRuns: RUNS.numRuns * 10,
      // what both brought, each in another place
      examples: [
        [
          ['kelp', 'tar'],
          ['tar', 'rope'],
          ['kelp', 'rope', 'tar'],
        ],
      ],
    },
  )
})

test('an oracle that knows the entries sees a wrong result', () => {
  const [family] = FAMILIES
  const story = listStory(1, family as Family, SHORT)
  const wrong = { text: written(story.old, 'json'), conflicts: [] } as unknown as CarriedText
  expect(() => expectNothingLost(story, wrong)).toThrow()
  expect(() => expectNoGuess({ ...story, mustAsk: false }, 'json', wrong)).toThrow()
})
