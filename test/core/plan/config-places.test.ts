import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { mergeListValue } from '../../../src/core/plan/list-value.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

interface Places {
  ordered?: string[]
  lists?: Record<string, string>
  together?: string[][]
  identity?: Record<string, string>
}

function carry(
  name: FormatName,
  texts: [string, string, string],
  places: Places = {},
): CarriedText {
  const { ordered = [], lists = {}, together = [], identity = {} } = places
  return carryText(texts, {
    format: formatNamed(name),
    path: 'a',
    ordered: new Set(ordered),
    lists: new Map(Object.entries(lists)),
    together,
    identity: new Map(Object.entries(identity)),
  })
}

describe('sections of INI files that share a name', () => {
  const gear = (rope: string, lamp: string): string =>
    `[Gear]\nID = rope\n${rope}\n[gear]\nid = lamp\n${lamp}`
  const texts: [string, string, string] = [
    gear('length = 10\n', 'light = 4\n'),
    gear('length = 20\n', 'light = 4\n'),
    gear('', 'light = 4\nlength = 10\n'),
  ]

  test.each([{}, { identity: { GEAR: 'ID' } }])(
    'are named by their ids, capitals aside, also where a key may have gone: %o',
    (places) => {
      const { text, conflicts } = carry('ini', texts, places)
      expect(text).toBe(texts[2])
      expect(conflicts).toMatchObject([
        { key: 'Gear[rope]/length', kind: 'gone-in-mine', perhaps: { key: 'gear[lamp]/length' } },
      ])
    },
  )

  test('are two where a lone one was given another name by which the config tells them', () => {
    const old = '[gear]\nid = rope\nlength = 10\n'
    const mine = old.replace('rope', 'net')
    const keys = (places: Places): string[] =>
      carry('ini', [old, old, mine], places).changes.map(({ key }) => key)
    expect(keys({})).toEqual(['gear/id'])
    expect(keys({ identity: { gear: 'id' } })).toEqual(['gear[rope]', 'gear[net]'])
  })
})

describe('where order matters', () => {
  const charts = (...names: string[]): string =>
    `<charts>\n${names.map((each) => `  <chart>${each}</chart>\n`).join('')}</charts>\n`

  test('a clash of orders is one conflict, and mine stands', () => {
    const texts: [string, string, string] = [
      charts('a', 'b', 'c'),
      charts('c', 'a', 'b', 'd'),
      charts('b', 'a', 'c'),
    ]
    const { text, conflicts, problems } = carry('xml', texts, { ordered: ['chart'] })
    expect(conflicts).toMatchObject([
      {
        key: 'chart',
        kind: 'order',
        old: 'chart[a], chart[b], chart[c]',
        mine: 'chart[b], chart[a], chart[c]',
      },
    ])
    expect(problems).toEqual([])
    expect(text).toBe(charts('b', 'd', 'a', 'c'))
    expect(carry('xml', texts).conflicts).toEqual([])
  })

  test('in arrays too, by the place of the array', () => {
    const { conflicts } = carry(
      'json',
      ['{"r": ["a", "b", "c"]}', '{"r": ["c", "a", "b"]}', '{"r": ["b", "a", "c"]}'],
      { ordered: ['r'] },
    )
    expect(conflicts.map(({ key, kind }) => [key, kind])).toEqual([['r', 'order']])
  })
})

describe('values that hold lists', () => {
  test.each([
    [['a, b, c', 'a, b, c, d', 'a, c'], ',', 'a, c, d'],
    [['a b c', 'x a c', 'a b c y'], ' ', 'x a c y'],
    [['a|b', 'b|z', 'a|b|m'], '|', 'b|z|m'],
    [['', 'a', 'b'], ',', 'a,b'],
    [['a + b', 'a + b + c', 'a + b'], '+', 'a + b + c'],
    [['a . b', 'a.b.c', 'a . b'], ' . ', 'a . b . c'],
    [['a, b, c', 'c, a, b', 'a, b, d'], ',', 'a, b, d'],
    [['a, b, c', 'c, b, a', 'a, b, c, d'], ',', 'c, d, b, a'],
    [['a, b, c', 'c, b, a', 'm, c, b, a'], ',', 'm, c, b, a'],
  ] as [[string, string, string], string, string][])(
    '%j by %j is %j',
    (values, separator, result) => {
      expect(mergeListValue(values, separator)).toBe(result)
      expect(mergeListValue([values[0], values[1], result], separator)).toBe(result)
    },
  )

  test.each([
    ['a, b', 'a, b, a', 'a, b, c'],
    ['a, b', 'a, b, c', 'a, a, b'],
    ['a, b, c', 'c, b, a', 'b, a, c'],
  ])('%j, %j and %j are a question', (old, fresh, mine) => {
    expect(mergeListValue([old, fresh, mine], ',')).toBeUndefined()
    const inJson = (list: string): string => `{"in": "${list}"}`
    const { text, conflicts } = carry('json', [inJson(old), inJson(fresh), inJson(mine)], {
      lists: { in: ',' },
    })
    expect([text, conflicts.map(({ kind }) => kind)]).toEqual([inJson(mine), ['two-values']])
  })

  test('are merged item by item where the config says so, in attributes, elements, members and INI', () => {
    const xml = (list: string): string => `<a><f id="1" in="${list}"><by>${list}</by></f></a>`
    const inXml = carry('xml', [xml('p, q'), xml('p, q, v'), xml('m, p, q')], {
      lists: { 'f/@in': ',', 'f/by': ',' },
    })
    expect(inXml.text).toBe(xml('m, p, q, v'))
    expect(inXml.changes).toMatchObject([
      { key: 'f/@in', side: 'both', result: 'm, p, q, v' },
      { key: 'f/by', side: 'both' },
    ])
    expect(
      carry('json', ['{"k": "p|q"}', '{"k": "p|q|v"}', '{"k": "q"}'], { lists: { k: '|' } }).text,
    ).toBe('{"k": "q|v"}')
    expect(
      carry('ini', ['[s]\nk = p q\n', '[s]\nk = p q v\n', '[s]\nk = q\n'], {
        lists: { 's/k': ' ' },
      }).text,
    ).toBe('[s]\nk = q v\n')
    expect(carry('json', ['{"k": "p|q"}', '{"k": "p|q|v"}', '{"k": "q"}']).conflicts).toHaveLength(
      1,
    )
  })
})

describe('what mine has commented out', () => {
  test('is gone in mine, and the conflict says where it stands', () => {
    const xml = (worth: number, comment = false): string => {
      const entry = `<find id="hook"><worth>${worth}</worth></find>`
      return `<a>\n  <find id="lamp"><worth>1</worth></find>\n  ${comment ? `<!-- ${entry} -->` : entry}\n</a>\n`
    }
    const { conflicts, text } = carry('xml', [xml(5), xml(6), xml(5, true)])
    expect(conflicts).toMatchObject([
      { key: 'find[hook]', kind: 'gone-in-mine', at: { mine: { line: 3, column: 3 } } },
    ])
    expect(text).toBe(xml(5, true))
    const ini = carry('ini', ['[s]\na = 1\nb = 1\n', '[s]\na = 1\nb = 2\n', '[s]\na = 1\n;b = 1\n'])
    expect(ini.conflicts).toMatchObject([{ key: 's/b', at: { mine: { line: 3, column: 1 } } }])
    const json = carry('json', [
      '{\n"a": 1,\n"b": 1\n}',
      '{\n"a": 1,\n"b": 2\n}',
      '{\n"a": 1\n// "b": 1,\n}',
    ])
    expect(json.conflicts).toMatchObject([{ key: 'b', at: { mine: { line: 3, column: 1 } } }])
  })

  test('and a default that mine made live is its own key', () => {
    const { text, changes, conflicts } = carry('ini', [
      ';a = 1\nb = 1\n',
      ';a = 1\nb = 2\n',
      'a = 5\nb = 1\n',
    ])
    expect({ text, open: conflicts.length }).toEqual({ text: 'a = 5\nb = 2\n', open: 0 })
    expect(changes.map(({ side, kind, key }) => `${side} ${kind} ${key}`).sort()).toEqual([
      'mine added a',
      'vanilla changed b',
    ])
  })

  test.each([
    ['that vanilla changes', '; a = 1\n', '; a = 3\n', 'now 3 and no longer 1', 'new'],
    ['that vanilla drops', '; a = 1\n', '', 'new has it no more', 'old'],
  ])('a default %s is told to who made it live', (_, old, fresh, told, input) => {
    const { text, conflicts, problems } = carry('ini', [
      `${old}\nb = 1\n`,
      `${fresh}\nb = 2\n`,
      `${old}a = 5\n\nb = 1\n`,
    ])
    expect(text).toBe(`${old}a = 5\n\nb = 2\n`)
    expect(conflicts).toEqual([])
    const note = problems.find(({ code }) => code === 'carry/default-changed')
    expect(note).toMatchObject({ line: 1, input })
    expect(note?.message).toContain(told)
  })
})

test('a header in a comment above keys that are live is a comment', () => {
  const boats = (first: string): string => `${first}\ncrew = 2\nhold = 6\n\n[cutter]\ncrew = 9\n`
  const texts: [string, string, string] = [boats('[skiff]'), boats('; [skiff]'), boats('[hulk]')]
  const { text = '' } = carry('ini', texts)
  // the keys of no section stand before all sections, as in vanilla
  expect(text.indexOf('crew = 2')).toBeLessThan(text.indexOf('\n['))
  expect(carry('ini', [texts[0], texts[1], text]).text).toBe(text)
})

describe('keys that only make sense together', () => {
  const groups = { together: [['find/yield/@least', 'find/yield/@most', 'find/@per']] }
  const find = (least: number, most: string, per = 1): string =>
    `<finds>\n  <find id="lamp" per="${per}"><yield least="${least}"${most}/></find>\n</finds>\n`
  const two = find(1, ' most="2"')

  test.each([
    ['one key each', find(2, ' most="2"'), find(1, ' most="8"'), ['@least', '@most']],
    ['a clash in one', find(2, ' most="3"'), find(1, ' most="8"'), ['@least', '@most']],
    ['at two depths', find(1, ' most="2"', 5), find(1, ' most="8"'), ['@per', '@most']],
    ['one that vanilla drops', find(1, ''), find(9, ' most="2"'), ['@least', '@most']],
    ['one that mine drops', find(2, ' most="2"'), find(1, ''), ['@least', '@most']],
  ])('%s is one question, and all are as mine has them', (_, fresh, mine, keys) => {
    for (const texts of [
      [two, fresh, mine],
      [two, mine, fresh],
    ] as [string, string, string][]) {
      const { text, changes, conflicts } = carry('xml', texts, groups)
      expect(text).toBe(texts[2])
      expect(changes).toEqual([])
      expect(conflicts.map(({ key }) => key.slice(key.lastIndexOf('/') + 1)).sort()).toEqual(
        [...keys].sort(),
      )
      const together = conflicts.map(({ id }) => id)
      for (const conflict of conflicts) expect(conflict.together).toEqual(together)
    }
  })

  test.each([
    ['only vanilla changes', find(3, ' most="9"', 2), two, find(3, ' most="9"', 2)],
    ['what both did alike', find(3, ' most="9"'), find(3, ' most="2"'), find(3, ' most="9"')],
  ])('%s is none', (_, fresh, mine, result) => {
    const { text, conflicts } = carry('xml', [two, fresh, mine], groups)
    expect([text, conflicts]).toEqual([result, []])
  })

  test('a key that is only one side’s belongs to the question', () => {
    const texts: [string, string, string] = [
      '{"dive": {"least": 1}}',
      '{"dive": {"least": 2}}',
      '{"dive": {"least": 1, "most": 4}}',
    ]
    const { text, conflicts } = carry('json', texts, {
      together: [['dive/least', 'dive/most']],
    })
    expect(text).toBe(texts[2])
    expect(conflicts.map(({ key, kind }) => [key, kind])).toEqual([
      ['dive/most', 'two-new'],
      ['dive/least', 'two-values'],
    ])
  })

  test('in members at two depths', () => {
    const dive = (crew: number, most: number): string =>
      `{"dive": {"crew": ${crew}, "reach": {"least": 1, "most": ${most}}}}`
    const { text, conflicts } = carry('json', [dive(1, 2), dive(5, 2), dive(1, 8)], {
      together: [['dive/reach/most', 'dive/crew']],
    })
    expect(text).toBe(dive(1, 8))
    expect(conflicts.map(({ key }) => key)).toEqual(['dive/crew', 'dive/reach/most'])
  })

  test('in sections of INI files, whose names are told apart by more than capitals', () => {
    const texts: [string, string, string] = [
      '[Sea]\nlow = 1\nhigh = 2\nfog = 1\n',
      '[Sea]\nlow = 0\nhigh = 2\nfog = 2\n',
      '[Sea]\nlow = 1\nhigh = 5\nfog = 1\n',
    ]
    const { text, conflicts } = carry('ini', texts, { together: [['sea/low', 'sea/high']] })
    expect(text).toBe('[Sea]\nlow = 1\nhigh = 5\nfog = 2\n')
    expect(conflicts.map(({ key }) => key)).toEqual(['Sea/low', 'Sea/high'])
  })
})
