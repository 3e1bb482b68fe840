import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { FORMAT_NAMES } from '../../../src/core/formats/index.ts'
import type { Extent, Family, ListStory } from './lists.ts'
import { carryList, canHold, FAMILIES, listStory, written } from './lists.ts'
import { RUNS } from './runs.ts'

/** As many lists of each family and format as of documents for a law. */
const SHORT: Extent = { least: 2, most: 6, edits: 3 }
const LONG: Extent = { least: 200, most: 400, edits: 12 }

/** What a result is as lines, whatever stands between them. */
const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim().replace(/,$/, ''))
    .filter((line) => line !== '')

/** Whether what stands in both has one order; of lines that are the same nothing is known. */
function haveOneOrder(result: readonly string[], side: readonly string[]): boolean {
  const isSet = (lines: readonly string[]): boolean => new Set(lines).size === lines.length
  if (!isSet(result) || !isSet(side)) return true
  const shared = result.filter((line) => side.includes(line))
  return shared.join() === side.filter((line) => result.includes(line)).join()
}

/** Nothing is guessed: the result is what has to come of the story, or somebody is asked. */
function expectNoGuess(story: ListStory, format: FormatName, carried: CarriedText): void {
  const isAsked = carried.conflicts.length > 0
  const [fresh, mine] = [written(story.fresh, format), written(story.mine, format)]
  if (story.isDistinct && story.mustAsk && fresh !== mine) expect(isAsked).toBe(true)
  if (story.mayNotAsk) expect(carried.conflicts).toEqual([])
  if (isAsked || story.mustAsk || fresh === mine) return
  const result = linesOf(carried.text ?? '')
  expect([...result].sort()).toEqual(linesOf(written(story.expected, format)).sort())
  expect(haveOneOrder(result, linesOf(fresh))).toBe(true)
  expect(haveOneOrder(result, linesOf(mine))).toBe(true)
}

/** Each thing that a side wrote stands in the result, or in a question. */
function expectNothingLost({ marks }: ListStory, { text, conflicts }: CarriedText): void {
  const told = [text ?? '', ...conflicts.flatMap((each) => [each.new, each.mine])].join('\n')
  expect(marks.filter((mark) => !told.includes(mark))).toEqual([])
}

/** The keys at which something is asked, without what tells an entry: that may be another one's in each. */
const askedAt = ({ conflicts }: CarriedText): string[] =>
  conflicts.map(({ key }) => key.replace(/\[[^\]]*\]|~[0-9]+/g, '')).sort()

function expectLaws(family: Family, format: FormatName, seed: number, extent: Extent): void {
  const story = listStory(seed, family, extent)
  const { old, fresh, mine } = story
  const carried = carryList([old, fresh, mine], format)
  expectNoGuess(story, format, carried)
  expectNothingLost(story, carried)
  // a repeated carry changes nothing
  const again = carryList([old, fresh, carried.text ?? ''], format)
  expect(again.text).toBe(carried.text)
  // new and mine exchanged
  const back = carryList([old, mine, fresh], format)
  expect(askedAt(back)).toEqual(askedAt(carried))
  if (carried.conflicts.length === 0)
    expect(linesOf(back.text ?? '').sort()).toEqual(linesOf(carried.text ?? '').sort())
}

const all = FORMAT_NAMES.flatMap((format) =>
  FAMILIES.filter((family) => canHold(format, family)).map((family) => ({ format, family })),
)

describe.each(all)('lists of $family.name in $format', ({ format, family }) => {
  test('nothing is guessed, lost, or changed by a repeated carry', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => expectLaws(family, format, seed, SHORT)),
      RUNS,
    )
    const few = { ...RUNS, numRuns: Math.ceil((RUNS.numRuns ?? 100) / 50) }
    fc.assert(
      fc.property(fc.nat(), (seed) => expectLaws(family, format, seed, LONG)),
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
