import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { RUNS } from '../laws/runs.ts'

type Lines = readonly string[]

/** A key with lines of comments above it. */
const WRITTEN: Record<FormatName, (lines: Lines) => string> = {
  ini: (lines) => `[dive]\ncharts = 4\n${lines.map((line) => `; ${line}\n`).join('')}lamps = 2\n`,
  json: (lines) =>
    `{\n  "charts": 4,\n${lines.map((line) => `  // ${line}\n`).join('')}  "lamps": 2\n}\n`,
  xml: (lines) =>
    `<dive>\n  <charts>4</charts>\n${lines.map((line) => `  <!-- ${line} -->\n`).join('')}  <lamps>2</lamps>\n</dive>\n`,
}

/** Words in which nobody reads a key. */
const LINES = ['soft ground', 'mind the kelp', 'two bells', 'slow tide', 'no lights', 'old wreck']

const block = (own: string): fc.Arbitrary<string[]> =>
  fc.uniqueArray(fc.constantFrom(...LINES.slice(0, 4), own), { maxLength: 5 })

function linesOf(text: string): string[] {
  return text
    .split('\n')
    .flatMap((line) => /^\s*(?:; |\/\/ |<!-- )(.*?)(?: -->)?$/.exec(line)?.[1] ?? [])
}

describe.each(Object.keys(WRITTEN) as FormatName[])('lines of comments in %s', (name) => {
  const carry = (...blocks: [old: Lines, fresh: Lines, mine: Lines]): CarriedText =>
    carryText([WRITTEN[name](blocks[0]), WRITTEN[name](blocks[1]), WRITTEN[name](blocks[2])], {
      format: formatNamed(name),
      path: 'a',
    })

  test('none is lost that both have, none of mine, and of vanilla none in silence', () => {
    fc.assert(
      fc.property(block('old wreck'), block('by vanilla'), block('by mine'), (old, fresh, mine) => {
        const carried = carry(old, fresh, mine)
        const result = linesOf(carried.text ?? '')
        expect(carried.text).toBe(WRITTEN[name](result))
        const told = carried.problems.map(({ message }) => message).join('\n')
        const isThere = (line: string): boolean => result.includes(line)
        expect(mine.filter((line) => fresh.includes(line) && !isThere(line))).toEqual([])
        expect(mine.filter((line) => !old.includes(line) && !isThere(line))).toEqual([])
        const lost = fresh.filter((line) => !old.includes(line) && !isThere(line))
        expect(lost.filter((line) => !told.includes(line))).toEqual([])
        for (const line of result) expect([...old, ...fresh, ...mine]).toContain(line)
        if (fresh.join() === old.join()) expect(result).toEqual(mine)
        if (mine.join() === old.join()) expect(result).toEqual(fresh)
        const again = carry(old, fresh, result)
        expect(again.text).toBe(carried.text)
      }),
      RUNS,
    )
  })
})
