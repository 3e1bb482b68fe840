import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

function carry(name: FormatName, texts: [string, string, string], explain?: string): CarriedText {
  return carryText(texts, { format: formatNamed(name), path: 'a', explain })
}

const finds = (...entries: string[]): string =>
  `<finds>\n${['a', 'b', 'c'].map((id) => `  <find id="${id}"/>\n`).join('')}${entries.join('')}</finds>\n`

describe('what is told of a key', () => {
  test('an entry that both added is one row, its result is what stands, and what differs is asked', () => {
    const { changes, conflicts, text } = carry('xml', [
      finds(),
      finds('  <find id="lamp"><worth>2</worth><lit/></find>\n'),
      finds('  <find id="lamp"><worth>3</worth><own by="us"/></find>\n'),
    ])
    expect(changes).toMatchObject([{ key: 'find[lamp]', kind: 'added', side: 'both', old: null }])
    const stands = changes[0]?.result ?? ''
    expect(stands).toMatch(/<worth>3<.*<own/)
    expect(stands).toContain('<lit/>')
    expect(text).toContain(stands)
    expect(conflicts).toMatchObject([
      { key: 'find[lamp]/worth', kind: 'two-new', new: '2', mine: '3' },
    ])
  })

  test('a value that both added differently is a conflict and no row', () => {
    const { changes, conflicts } = carry('ini', ['', 'depth = 4\n', 'depth = 5\n'])
    expect(changes).toEqual([])
    expect(conflicts).toMatchObject([{ key: 'depth', kind: 'two-new' }])
  })

  test('an element with attributes has its text as its value, and its conflict is named by that', () => {
    const worth = (value: number, more = ''): string =>
      `<find><worth in="coins"${more}>${value}</worth></find>\n`
    const one = carry('xml', [worth(1), worth(2), worth(3)]).conflicts
    expect(one).toMatchObject([{ key: 'worth', old: '1', new: '2', mine: '3', result: '3' }])
    const other = carry('xml', [worth(1), worth(2), worth(3, ' own="1"')]).conflicts
    expect(other.map(({ id }) => id)).toEqual(one.map(({ id }) => id))
  })

  test('of an entry that went it is told what was changed in it, also where its lists repeat a value', () => {
    const bells = (...air: number[]): string =>
      JSON.stringify({ deep: 1, bells: air.map((each) => ({ air: each })) })
    const { conflicts } = carry('json', [bells(75, 75, 75), '{"deep": 1}', bells(75, 75, 232)])
    expect(conflicts.map(({ inside }) => inside)).toEqual([
      [{ path: 'air', from: '75', to: '232' }],
    ])
  })

  test('numbers are keyed and shown as they stand', () => {
    const zones = (worth: string, id = '10'): string =>
      `{ "zones": [{ "id": ${id}, "worth": ${worth} }, { "id": 20 }, { "id": 30 }] }\n`
    const { conflicts, changes } = carry('json', [zones('1'), zones('1e3'), zones('2.50')])
    expect(conflicts).toMatchObject([{ key: 'zones[10]/worth', new: '1e3', mine: '2.50' }])
    expect(changes).toEqual([])
  })

  test('an entry that was moved and changed is one row', () => {
    const slots = (...values: string[]): string =>
      values.map((value) => `[slot]\nworth = ${value}\nname = ${value}\n`).join('')
    const old = slots('1', '2', '3')
    for (const mine of [slots('3', '1', '2'), slots('2', '3', '1'), slots('3', '1', '7')]) {
      const keys = carry('ini', [old, old, mine]).changes.map(({ key }) => key)
      expect(keys.length).toBeGreaterThan(0)
      expect(new Set(keys).size).toBe(keys.length)
    }
  })

  test('what stands behind an entry that moved with its edits is found at its line', () => {
    const list = (...entries: string[]): string =>
      entries.map((entry) => `    ${entry}`).join(',\n') || '    '
    const crew = (east: string[], west: string[]): string =>
      `{\n  "east": [\n${list(...east)}\n  ],\n  "west": [\n${list(...west)}\n  ]\n}\n`
    const diver = (pay: string): string => `{ "id": "diver", "pay": ${pay}, "home": "Sool" }`
    const smith = (pay: number): string => `{ "id": "smith", "pay": ${pay}, "home": "Tern" }`
    const { conflicts, explained } = carry(
      'json',
      [
        crew([diver('2')], [smith(4)]),
        crew([], [diver('2'), smith(5)]),
        crew([diver('22,\n      "own": [1,\n      2]')], [smith(7)]),
      ],
      'west[smith]',
    )
    expect(conflicts).toMatchObject([{ key: 'west[smith]/pay' }])
    expect(conflicts[0]?.at).toMatchObject({
      old: { line: 6 },
      new: { line: 7 },
      mine: { line: 8 },
    })
    expect(explained).toMatchObject({ key: { at: { new: { line: 7, column: 5 } } } })
  })

  test('a key that is asked for is there, or the nearest is named', () => {
    const text = '{ "limits": { "oxygen": 90, "charts": 3 } }\n'
    const of = (key: string): CarriedText['explained'] =>
      carry('json', [text, text, text], key).explained
    expect(of('limits/oxygen')).toMatchObject({
      is: 'there',
      key: { old: '90', mine: '90', at: { new: { line: 1, column: 15 } } },
    })
    expect(of('limits/oxigen')).toEqual({ is: 'not-there', nearest: 'limits/oxygen' })
  })
})
