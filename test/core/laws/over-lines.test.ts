import fc from 'fast-check'
import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { RUNS } from './runs.ts'

/** The words of some values, each on a line of its own. */
type Values = readonly (readonly string[])[]

const NAMES = ['tools', 'crew', 'tides'] as const

const FORMATS = {
  xml: (values: Values, indent: string): string =>
    `<pier>\n${values.map((words, i) => `  <${NAMES[i]}>\n${words.map((word) => `${indent}${word}\n`).join('')}  </${NAMES[i]}>\n`).join('')}</pier>\n`,
  ini: (values: Values, indent: string): string =>
    `[pier]\n${values.map((words, i) => `${NAMES[i]} = { "of"\n${words.map((word) => `${indent}"${word}"\n`).join('')}${indent}}\n`).join('')}`,
}

const words = fc.array(fc.constantFrom('lamp', 'rope', 'saw'), { minLength: 1, maxLength: 3 })
const values = fc.tuple(words, words, words)
const indents = fc.stringMatching(/^[ \t]{1,6}$/)

test.each(Object.entries(FORMATS))(
  '%s: how the lines of values are indented is form',
  (name, written) => {
    const options = { format: formatNamed(name as keyof typeof FORMATS), path: 'pier' }
    const told = (texts: readonly [string, string, string]): unknown => {
      const { text = '', conflicts } = carryText([...texts], options)
      return [conflicts.map(({ key, kind }) => [key, kind]), text.replace(/^[ \t]+/gm, '')]
    }
    const three = fc.tuple(values, values, values, fc.nat(2))
    fc.assert(
      fc.property(three, fc.tuple(indents, indents, indents), ([old, fresh, mine, kept], anew) => {
        // one value is nobody's edit, so that mere indentation is tried, too
        const edited = [old, fresh, mine.map((each, i) => (i === kept ? (old[i] ?? each) : each))]
        const as = (indent: readonly string[]): [string, string, string] => [
          ...triple((side) => written(edited[side] ?? [], indent[side] ?? '')),
        ]
        expect(told(as(anew))).toEqual(told(as(['    ', '    ', '    '])))
      }),
      RUNS,
    )
  },
)

test('however long a run of blanks or of quotes in a value is, each is passed once', () => {
  const blanks = ' '.repeat(200_000)
  const quotes = '\\"'.repeat(200_000)
  for (const [name, value] of [
    ['xml', (word: string) => `<pier>lamp${blanks}rope\n${word}</pier>\n`],
    ['ini', (word: string) => `tools = lamp${blanks}rope "${quotes}\n    ${word}\nsize = 1\n`],
  ] as const) {
    const options = { format: formatNamed(name), path: 'pier' }
    const texts = [value('saw'), value('net'), value('saw').replace('\n', '\n\t')] as const
    expect(carryText([...texts], options).text?.includes('net')).toBe(true)
  }
})
