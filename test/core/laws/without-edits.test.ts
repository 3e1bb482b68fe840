import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { RUNS } from './runs.ts'

/** An entry that nothing names, of values that repeat. */
interface Crate {
  deck: number
  row: number
  holds: string
}

const crates = fc.array(
  fc.record({ deck: fc.nat(1), row: fc.nat(1), holds: fc.constantFrom('rope', 'tar', 'nails') }),
  { minLength: 1, maxLength: 10 },
)

/** A list of crates as a file, each on a line that begins with `indent`. */
const RENDERED: Record<'json' | 'xml', (list: readonly Crate[], indent: string) => string> = {
  json: (list, indent) =>
    `{"hold": [\n${list.map((crate) => indent + JSON.stringify(crate)).join(',\n')}\n]}\n`,
  xml: (list, indent) => {
    const lines = list.map(
      ({ deck, row, holds }) => `${indent}<crate deck="${deck}" row="${row}">${holds}</crate>\n`,
    )
    return `<hold>\n${lines.join('')}</hold>\n`
  },
}

/** What a file says, whatever its indentation. */
const said = (text: string | undefined): string | undefined => text?.replace(/^[ \t]+/gm, '')

function carry(
  name: FormatName,
  texts: [string, string, string],
): { text: string | undefined; asked: string[]; sides: string[] } {
  const carried = carryText(texts, { format: formatNamed(name), path: `hold.${name}` })
  return {
    text: said(carried.text),
    asked: carried.conflicts.map(({ key }) => key),
    sides: [...new Set(carried.changes.map(({ side }) => side))],
  }
}

describe.each(['json', 'xml'] as const)('lists of %s whose entries nothing tells apart', (name) => {
  const render = RENDERED[name]

  test.each(['  ', '\t'])(
    'mine is old by value, indented by %j: the result says what new says',
    (indent) => {
      fc.assert(
        fc.property(crates, crates, (old, fresh) => {
          const carried = carry(name, [render(old, '  '), render(fresh, '  '), render(old, indent)])
          expect(carried.asked).toEqual([])
          expect(carried.sides).not.toContain('mine')
          expect(carried.text).toBe(said(render(fresh, '  ')))
        }),
        RUNS,
      )
    },
  )

  test('mine is new by value: what differs from old was made by both', () => {
    fc.assert(
      fc.property(crates, crates, (old, fresh) => {
        const carried = carry(name, [render(old, '  '), render(fresh, '  '), render(fresh, '\t')])
        expect(carried.asked).toEqual([])
        expect(carried.sides.filter((side) => side !== 'both')).toEqual([])
        expect(carried.text).toBe(said(render(fresh, '  ')))
      }),
      RUNS,
    )
  })
})
