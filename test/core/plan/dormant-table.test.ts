import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { triple } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

/** What an entry can be in a document: not there, live, or in comments, with one of three values. */
const STATES = ['-', '1', '2', '3', '(1)', '(2)', '(3)']

interface Notation {
  name: FormatName
  live: (value: string) => string
  comment: (text: string) => string
  around: (lines: string) => string
}

const NOTATIONS: readonly Notation[] = [
  {
    name: 'ini',
    live: (value) => `depth = ${value}\n`,
    comment: (text) => `; ${text}`,
    around: (lines) => `[dive]\ncharts = 4\n${lines}lamps = 2\n`,
  },
  {
    name: 'json',
    live: (value) => `  "depth": ${value},\n`,
    comment: (text) => `  // ${text.trimStart()}`,
    around: (lines) => `{\n  "charts": 4,\n${lines}  "lamps": 2\n}\n`,
  },
  {
    name: 'xml',
    live: (value) => `  <depth>${value}</depth>\n`,
    comment: (text) => `  <!-- ${text.trim()} -->\n`,
    around: (lines) => `<dive>\n  <charts>4</charts>\n${lines}  <lamps>2</lamps>\n</dive>\n`,
  },
]

function linesOf({ live, comment }: Notation, state: string): string {
  if (state === '-') return ''
  const value = state.replace(/[()]/g, '')
  return state === value ? live(value) : comment(live(value))
}

/** The state, or the states one behind the other, of which a result is. */
function stateOf(notation: Notation, text: string | undefined): string {
  const there = STATES.slice(1)
  const all = [['-'], ...there.flatMap((one) => [[one], ...there.map((other) => [one, other])])]
  const found = all.find(
    (states) => notation.around(states.map((each) => linesOf(notation, each)).join('')) === text,
  )
  return found?.join('') ?? `\n${text ?? ''}`
}

function tableOf(notation: Notation): string {
  const rows: string[] = []
  for (const old of STATES)
    for (const fresh of STATES)
      for (const mine of STATES) {
        // which value is called 1 makes no difference; what one side alone did is another law's
        const values = [old, fresh, mine].join('').replace(/[-()]/g, '')
        const isFirst = [...values].every((value, at) =>
          [...values.slice(0, at), ''].some((before) => Number(value) <= Number(before) + 1),
        )
        if (!isFirst || old === fresh || old === mine || fresh === mine) continue
        const inputs = [old, fresh, mine]
        const carried = carryText(
          triple((side) => notation.around(linesOf(notation, inputs[side] ?? ''))),
          { format: formatNamed(notation.name), path: 'a' },
        )
        const told = [
          ...carried.conflicts.map(({ kind }) => `asked: ${kind}`),
          ...carried.changes.map(({ side, kind }) => `${side} ${kind}`),
          ...carried.problems
            .filter(({ code }) => code.startsWith('carry/'))
            .map(({ code }) => code),
        ].sort()
        const states = inputs.map((state) => state.padEnd(4)).join('')
        rows.push(`${states}${stateOf(notation, carried.text).padEnd(6)}${told.join(', ')}`.trim())
      }
  return `${rows.join('\n')}\n`
}

test('an entry that is live, dormant or not there is merged as any value, whatever the format', async () => {
  const [ini, json, xml] = NOTATIONS.map(tableOf)
  await expect(`old new mine  result\n${ini}`).toMatchFileSnapshot('dormant-table.txt')
  expect(json).toBe(ini)
  expect(xml).toBe(ini)
})
