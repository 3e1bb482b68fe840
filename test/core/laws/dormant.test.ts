import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import type { DormantStory, Entry } from './dormant.ts'
import { RUNS } from './runs.ts'
import { carryDormant, carryDormantTexts, expectedLive, NOTATIONS } from './dormant.ts'

/** What a side makes of an entry: mostly nothing. */
const entry: fc.Arbitrary<Entry | undefined> = fc.option(
  fc.record({ isLive: fc.boolean(), value: fc.integer({ min: 1, max: 4 }) }),
  { nil: undefined, freq: 6 },
)
const versions = fc
  .tuple(entry, fc.option(entry, { freq: 1 }), fc.option(entry, { freq: 1 }))
  .map(([old, fresh, mine]): Triple<Entry | undefined> => [
    old,
    fresh === null ? old : fresh,
    mine === null ? old : mine,
  ])
const words = fc.constantFrom(
  '',
  '\n',
  '# so high it comes\n',
  '\n# high\n# low\n',
  '\n# high\n',
  '# ====\n# high\n# ====\n',
  '\n# ====\n\n',
  '# tide_b = 3\n',
  '\n# default = none\n',
)
/** Entries with the words above them, in each document. */
const wordy = fc.array(
  fc.tuple(
    versions,
    fc
      .tuple(words, fc.option(words, { freq: 1 }), fc.option(words, { freq: 1 }))
      .map(([old, fresh, mine]): Triple<string> => [old, fresh ?? old, mine ?? old]),
  ),
  { minLength: 1, maxLength: 5 },
)
const story: fc.Arbitrary<{ story: DormantStory; about: string[] }> = fc
  .array(
    fc.tuple(versions, fc.constantFrom('', '', '\n', '# so high it comes\n', '\n# high\n# low\n')),
    { minLength: 1, maxLength: 6 },
  )
  .map((entries) => ({
    story: [0, 1, 2].map((side) => entries.map(([each]) => each[side])) as unknown as DormantStory,
    about: entries.map(([, words]) => words),
  }))

/** An entry that old lacks, and that one side has live and the other in a comment, is two: nothing says that it is one. */
const isOneEach = ([old, fresh, mine]: DormantStory): boolean =>
  old.every(
    (was, n) =>
      was !== undefined ||
      fresh[n] === undefined ||
      mine[n] === undefined ||
      fresh[n].isLive === mine[n].isLive,
  )

describe.each(NOTATIONS)('$name, live and dormant', (notation) => {
  const keysOf = (keys: readonly string[]): string[] => [...new Set(keys)].sort()

  test('are merged three-way: what is live, and who is asked', () => {
    fc.assert(
      fc.property(story, ({ story: told, about }) => {
        fc.pre(isOneEach(told))
        const { text = '', conflicts } = carryDormant(notation, told, about)
        const inResult = notation.read(text)
        for (const number of told[0].keys()) {
          const { live, isAsked } = expectedLive(told, number)
          const here = inResult.filter((each) => each.number === number)
          const letter = String.fromCharCode(97 + number)
          expect(
            here.filter(({ entry: { isLive } }) => isLive).map(({ entry: e }) => e.value),
          ).toEqual(live === undefined ? [] : [live])
          expect(conflicts.some(({ key }) => key.includes(`tide_${letter}`))).toBe(isAsked)
          expect(here.length).toBeLessThan(2)
          // what mine has in a comment, and vanilla has not made live, is never lost
          const [was, , mine] = told.map((entries) => entries[number])
          const isKept = mine !== undefined && !mine.isLive && was?.value !== mine.value
          if (isKept && live === undefined)
            expect(here.map((e) => e.entry.value)).toEqual([mine.value])
        }
      }),
      RUNS,
    )
  })

  test('and the words above them are those of the side that changed them, and a repeated carry changes nothing', () => {
    fc.assert(
      fc.property(wordy, (entries) => {
        const [old, fresh, mine] = triple((side) =>
          notation.write(
            entries.map(([each]) => each[side]),
            entries.map(([, words]) => words[side]),
          ),
        )
        const carried = (...texts: [string, string, string]): string | undefined =>
          carryDormantTexts(notation, texts).text
        expect(carried(old, fresh, old)).toBe(fresh)
        expect(carried(old, old, mine)).toBe(mine)
        expect(carried(old, mine, mine)).toBe(mine)
        const result = carried(old, fresh, mine) ?? ''
        expect(carried(old, fresh, result)).toBe(result)
      }),
      RUNS,
    )
  })

  test('stay in their order', () => {
    fc.assert(
      fc.property(story, ({ story: told, about }) => {
        fc.pre(isOneEach(told))
        const { text = '' } = carryDormant(notation, told, about)
        const inOld = notation.read(text).filter(({ number }) => told[0][number] !== undefined)
        const numbers = inOld.map(({ number }) => number)
        expect(numbers).toEqual([...numbers].sort((a, b) => a - b))
      }),
      RUNS,
    )
  })

  test('a repeated carry changes nothing, and exchanged the same is asked', () => {
    fc.assert(
      fc.property(story, ({ story: told, about }) => {
        fc.pre(isOneEach(told))
        const { text = '', conflicts, texts } = carryDormant(notation, told, about)
        expect(carryDormantTexts(notation, [texts[0], texts[1], text]).text).toBe(text)
        const back = carryDormantTexts(notation, [texts[0], texts[2], texts[1]])
        expect(keysOf(back.conflicts.map(({ key }) => key))).toEqual(
          keysOf(conflicts.map(({ key }) => key)),
        )
      }),
      RUNS,
    )
  })
})
