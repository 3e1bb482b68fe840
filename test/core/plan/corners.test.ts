import { describe, expect, test } from 'vitest'
import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import type { Decision } from '../../../src/core/plan/decide.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

/*
 * What a merge meets seldom: no law's documents come there by chance.
 */

type Texts = readonly [old: string, fresh: string, mine: string]

function carry(
  name: FormatName,
  [old, fresh, mine]: Texts,
  more: Partial<CarryOptions> = {},
): CarriedText {
  return carryText([old, fresh, mine], { format: formatNamed(name), path: 'a', ...more })
}

const kinds = ({ conflicts }: CarriedText): string[] =>
  conflicts.map(({ key, kind }) => `${kind} ${key}`)
const notes = ({ problems }: CarriedText): string[] => problems.map(({ code }) => code)
const rows = ({ changes }: CarriedText): string[] =>
  changes.map(({ side, kind, key }) => `${side} ${kind} ${key}`)

describe('text in one, child elements in the other', () => {
  const lamp = (attribute: string, content: string): string =>
    `<boat>\n  <lamp${attribute}>${content}</lamp>\n</boat>\n`

  test.each<[string, string, string, string, string]>([
    ['vanilla alone', 'lit', '<wick/>', 'lit', 'vanilla changed lamp'],
    ['mine alone', 'lit', 'lit', '<wick/>', 'mine changed lamp'],
    ['both alike', '<wick/>', 'lit', 'lit', 'both changed lamp'],
  ])('reshaped by %s is no question', (_, old, fresh, mine, row) => {
    // attributes that both changed, so that no side has the element as it was
    const carried = carry('xml', [
      lamp(' a="1" b="1"', old),
      lamp(' a="2" b="1"', fresh),
      lamp(' a="1" b="3"', mine),
    ])
    const content = row.startsWith('vanilla') ? fresh : mine
    expect([carried.text, kinds(carried)]).toEqual([lamp(' a="2" b="3"', content), []])
    expect(rows(carried)).toContain(row)
  })

  const clash: Texts = [lamp('', 'lit'), lamp('', '<wick/>'), lamp('', 'dim')]

  test('is a question of its shape, which is decided for one of the two', () => {
    expect([carry('xml', clash).text, kinds(carry('xml', clash))]).toEqual([
      clash[2],
      ['shape lamp'],
    ])
    const decided = (take: 'vanilla' | 'mine'): CarriedText =>
      carry('xml', clash, { decisions: [{ key: 'lamp', by: 'decision', take }] })
    expect([decided('vanilla').text, decided('mine').text]).toEqual([clash[1], clash[2]])
    expect([kinds(decided('vanilla')), kinds(decided('mine'))]).toEqual([[], []])
    const both = carry('xml', clash, { decisions: [{ key: 'lamp', by: 'decision', take: 'both' }] })
    expect([both.text, kinds(both), both.notApplied?.length]).toEqual([clash[2], ['shape lamp'], 1])
  })

  test('an element that mine alone has with text, and new with elements, is asked, too', () => {
    expect(kinds(carry('xml', ['<boat/>\n', clash[1], clash[2]]))).toEqual(['shape lamp'])
  })
})

describe('an entry that went on one side', () => {
  const texts: Texts = [
    '{ "a": { "x": 1, "y": 2 }, "b": 1 }',
    '{ "b": 1 }',
    '{ "a": { "x": 3, "y": 2 }, "b": 1 }',
  ]

  test('stands or not: a value for it is refused', () => {
    const decided = carry('json', texts, {
      decisions: [{ key: 'a', by: 'decision', take: 'both' }],
    })
    expect([decided.text, kinds(decided)]).toEqual([texts[2], ['gone-in-vanilla a']])
    expect(decided.notApplied).toMatchObject([{ key: 'a', why: expect.stringContaining('or not') }])
  })

  test('without old each difference is a question, what one side alone has, too', () => {
    const carried = carry('json', ['{}', texts[1], texts[2]], { everyDifference: true })
    expect([carried.text, kinds(carried)]).toEqual([texts[2], ['gone-in-vanilla a']])
    const back = carry('json', ['{}', texts[2], texts[1]], { everyDifference: true })
    expect([back.text, kinds(back)]).toEqual([texts[1], ['gone-in-mine a']])
  })
})

describe('an entry under another name', () => {
  const FIELDS = ['charge', 'beam', 'glow', 'hook', 'cost', 'crew', 'tier', 'bolt', 'span', 'pitch']
  /** An entry whose values are its own, but for as many of the first as are another's. */
  const entry = (id: string, own: string, of = own, shared = 0): string =>
    `  { "id": "${id}", ${FIELDS.map((field, i) => `"${field}": "${field}-${i < shared ? of : own}"`).join(', ')} }`
  const list = (...entries: string[]): string => `[\n${entries.join(',\n')}\n]\n`
  const others = [entry('rope', 'r'), entry('bell', 'b'), entry('buoy', 'u')]
  const old = list(entry('lamp', 'l'), ...others)

  test.each([
    [8, ['carry/perhaps-renamed']],
    [5, []],
  ])('that mine dropped is told where %i of ten values are the same', (shared, told) => {
    const fresh = list(entry('lantern', 'x', 'l', shared), ...others)
    const carried = carry('json', [old, fresh, list(...others)])
    expect([kinds(carried), notes(carried)]).toEqual([[], told])
    expect(carried.text).toBe(fresh)
  })

  test('that both gave it is told of each', () => {
    const fresh = list(entry('lantern', 'x', 'l', 8), ...others)
    const mine = list(entry('torch', 'y', 'l', 8), ...others)
    const carried = carry('json', [old, fresh, mine])
    expect([kinds(carried), notes(carried)]).toEqual([
      [],
      ['carry/perhaps-renamed', 'carry/perhaps-renamed'],
    ])
    expect(carried.text).toContain('"torch"')
    expect(carried.text).toContain('"lantern"')
  })

  test('that vanilla gave it, with half of the values, is a perhaps where mine has edits', () => {
    const fresh = list(entry('lantern', 'x', 'l', 5), ...others)
    const mine = old.replace('"charge-l"', '"charge-mine"')
    const { conflicts } = carry('json', [old, fresh, mine])
    expect(conflicts).toMatchObject([
      { key: '[lamp]', kind: 'gone-in-vanilla', perhaps: { key: '[lantern]' } },
    ])
  })
})

describe('an entry without a name that vanilla moved and changed, and mine dropped', () => {
  const place = (x: number, y: number, z: number): string => `  { "x": ${x}, "y": ${y}, "z": ${z} }`
  const list = (...places: string[]): string => `[\n${places.join(',\n')}\n]\n`
  const others = [place(11, 12, 13), place(21, 22, 23), place(31, 32, 33), place(41, 42, 43)]
  const old = list(place(1, 2, 3), ...others)

  test('is asked where one new entry is like it', () => {
    const carried = carry('json', [old, list(...others, place(1, 2, 9)), list(...others)])
    expect([kinds(carried), carried.text]).toEqual([['gone-in-mine [4]'], list(...others)])
  })

  test('is asked with the one that is most like it, wherever that stands', () => {
    const places = [place(1, 2, 9), place(1, 8, 9)]
    for (const fresh of [places, places.toReversed()]) {
      const carried = carry('json', [old, list(...others, ...fresh), list(...others)])
      expect(carried.conflicts).toMatchObject([{ kind: 'gone-in-mine', new: places[0]?.trim() }])
    }
  })

  test('is dropped where two are as much like it: then either came of itself', () => {
    const fresh = list(...others, place(1, 2, 8), place(1, 2, 9))
    expect(kinds(carry('json', [old, fresh, list(...others)]))).toEqual([])
  })
})

describe('an entry with an id that stands in another list', () => {
  const find = (charge: string, more: string): string =>
    `    { "id": "lamp", "charge": "${charge}", "beam": "${more}", "glow": "${more}", "hook": "${more}" }`
  const ship = (deck: readonly string[], hold: readonly string[]): string =>
    `{\n  "deck": [\n${[...deck, '    { "id": "rope", "charge": "none" }'].join(',\n')}\n  ],\n  "hold": [\n${[...hold, '    { "id": "tar", "charge": "slow" }'].join(',\n')}\n  ]\n}\n`
  const old = ship([find('ten', 'wide')], [])
  const edited = ship([find('mine', 'wide')], [])

  test('is the same where what moved is much like old', () => {
    const fresh = ship([], [find('ten', 'wide')])
    const carried = carry('json', [old, fresh, edited])
    expect([carried.text, kinds(carried)]).toEqual([ship([], [find('mine', 'wide')]), []])
  })

  test.each<[string, Texts, string]>([
    ['vanilla', [old, ship([], [find('ten', 'narrow')]), edited], 'gone-in-vanilla deck[lamp]'],
    ['mine', [old, edited, ship([], [find('ten', 'narrow')])], 'gone-in-mine deck[lamp]'],
  ])('is asked where %s changed most of it, too, though the other did not', (_, texts, kind) => {
    const carried = carry('json', texts)
    expect(kinds(carried)).toEqual([kind])
    expect(carried.conflicts).toMatchObject([{ perhaps: { key: 'hold[lamp]' } }])
  })

  test('is one where both moved it there, and one of the two is much like old', () => {
    const moved = ship([], [find('mine', 'wide')])
    for (const texts of [
      [old, ship([], [find('ten', 'narrow')]), moved],
      [old, moved, ship([], [find('ten', 'narrow')])],
    ] as const) {
      const carried = carry('json', texts)
      expect([carried.text, kinds(carried)]).toEqual([ship([], [find('mine', 'narrow')]), []])
    }
  })
})

describe('rows that are told by what they begin with', () => {
  const rows = (...all: [string, number][]): string => `{ "prices": ${JSON.stringify(all)} }\n`

  test('follow that, wherever they stand', () => {
    const texts: Texts = [
      rows(['tar', 1], ['oil', 2], ['rope', 3]),
      rows(['oil', 2], ['tar', 5], ['rope', 3]),
      rows(['tar', 1], ['oil', 9], ['rope', 3], ['lamp', 4]),
    ]
    const carried = carry('json', texts, { identity: new Map([['prices', '[0]']]) })
    expect(kinds(carried)).toEqual([])
    expect(JSON.parse(carried.text ?? '')).toEqual({
      prices: [
        ['oil', 9],
        ['tar', 5],
        ['rope', 3],
        ['lamp', 4],
      ],
    })
  })
})

describe('an order that both changed', () => {
  const list = (...names: string[]): string => JSON.stringify({ load: names.map((id) => ({ id })) })
  const texts: Texts = [list('a', 'b', 'c'), list('c', 'a', 'b'), list('b', 'a', 'c')]
  const decided = (decision: object): CarriedText =>
    carry('json', texts, {
      ordered: new Set(['load']),
      decisions: [{ key: 'load', by: 'decision', ...decision } as Decision],
    })

  test('is decided for one of the two, and for nothing else', () => {
    expect([decided({ take: 'vanilla' }).text, decided({ take: 'mine' }).text]).toEqual([
      texts[1],
      texts[2],
    ])
    const refused = decided({ take: 'value', text: 'a' })
    expect([refused.text, kinds(refused)]).toEqual([texts[2], ['order load']])
    expect(refused.notApplied).toEqual([{ key: 'load', why: 'one of the two orders stands there' }])
  })
})

describe('what is told of an entry that moved', () => {
  const VALUES = '"charge": 10, "beam": "wide", "cost": 70, "bed": "silt"'
  const of = (east: string, west: string): string => `{ "east": [${east}], "west": [${west}] }\n`
  const [rope, oil] = ['{ "id": "rope", "cost": 3 }', '{ "id": "oil", "cost": 4 }']
  const lamp = (values = VALUES): string => `{ "id": "lamp", ${values} }`

  test('names who moved it, and whose changes went there', () => {
    const [old, moved] = [of(`${rope}, ${lamp()}`, oil), of(rope, `${oil}, ${lamp()}`)]
    const edited = of(`${rope}, ${lamp(VALUES.replace('10', '25'))}`, oil)
    const said = ({ problems }: CarriedText): string[] => problems.map(({ message }) => message)
    expect(said(carry('json', [old, moved, edited]))).toEqual([
      'east[lamp] stands at west[lamp] now; your edits in it went there',
    ])
    expect(said(carry('json', [old, edited, moved]))).toEqual([
      "east[lamp] stands at west[lamp] now; vanilla's changes in it went there",
    ])
  })
})
