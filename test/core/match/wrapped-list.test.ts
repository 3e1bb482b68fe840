import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// Vanilla may have put a new container around the entries of a list, and mine adds an entry: that goes into the
// container only where it is sure to be around these.

const item = (id: string, worth: number): string => `<item id="${id}" worth="${worth}"/>`
const [LAMP, ROPE, NET, BELL] = [item('lamp', 4), item('rope', 7), item('net', 1), item('bell', 9)]
const OWN = item('own', 5)
const list = (...entries: string[]): string => `<list>${entries.join('')}</list>`
const hold = (room: number): string => `<hold><room>${room}</room></hold>`
const CHEST = item('', 0).replace(' id=""', ' size="3" lock="5"')

test.each<[what: string, old: string, fresh: string, mine: string, isInside: boolean]>([
  ['all', list(LAMP, ROPE), list(`<new>${LAMP}${ROPE}</new>`), list(LAMP, ROPE, OWN), true],
  [
    'all, and all are changed',
    list(LAMP, ROPE),
    list(`<new>${item('lamp', 5)}${item('rope', 8)}</new>`),
    list(LAMP, ROPE, OWN),
    true,
  ],
  [
    'more than half, and the others are gone',
    list(LAMP, ROPE, NET),
    list(`<new>${LAMP}${ROPE}</new>`),
    list(LAMP, ROPE, NET, OWN),
    true,
  ],
  [
    'half',
    list(LAMP, ROPE, NET, BELL),
    list(`<new>${LAMP}${ROPE}</new>`),
    list(LAMP, ROPE, NET, BELL, OWN),
    false,
  ],
  [
    'most, and another stands in another one',
    list(LAMP, ROPE, NET),
    list(`<new>${LAMP}${ROPE}</new><other>${NET}</other>`),
    list(LAMP, ROPE, NET, OWN),
    false,
  ],
  [
    'those on either side of what stays',
    list(LAMP, '<sign/>', ROPE),
    list('<sign/>', `<new>${LAMP}${ROPE}</new>`),
    list(LAMP, '<sign/>', ROPE, OWN),
    false,
  ],
  [
    'all, and what is said about them is gone',
    list('<!-- a -->\n\n', '<!-- b -->\n\n', '<!-- c -->\n\n', LAMP, ROPE),
    list(`<new>${LAMP}${ROPE}</new>`),
    list('<!-- a -->\n\n', '<!-- b -->\n\n', '<!-- c -->\n\n', LAMP, ROPE, OWN),
    true,
  ],
  ['all, and mine has none', list(LAMP, ROPE), list(`<new>${LAMP}${ROPE}</new>`), list(OWN), false],
  ['the only one, of an id', list(LAMP), list(`<new>${LAMP}</new>`), list(LAMP, OWN), true],
  [
    'the only one, of an id, and it is changed',
    list(LAMP),
    list(`<new>${item('lamp', 5)}</new>`),
    list(LAMP, OWN),
    true,
  ],
  [
    'the only one, of a name',
    list(hold(1)),
    list(`<new>${hold(1)}</new>`),
    list(hold(1), OWN),
    true,
  ],
  [
    'the only one, of a name, and it is changed',
    list(hold(1)),
    list(`<new>${hold(2)}</new>`),
    list(hold(1), OWN),
    false,
  ],
  [
    'the only one, which has no name but much in it',
    list(CHEST),
    list(`<new>${CHEST}</new>`),
    list(CHEST, OWN),
    true,
  ],
  [
    'the only one, which has no name and little in it',
    list('<item worth="4"/>'),
    list('<new><item worth="4"/></new>'),
    list('<item worth="4"/>', OWN),
    false,
  ],
  [
    'plain ones',
    list('<li>1</li>', '<li>2</li>', '<li>3</li>'),
    list('<new><li>1</li><li>2</li><li>3</li></new>'),
    list('<li>1</li>', '<li>2</li>', '<li>3</li>', OWN),
    true,
  ],
  [
    'two plain ones, by chance',
    list('<li>1</li>', '<li>2</li>'),
    list('<new><li>1</li><li>2</li></new>'),
    list('<li>1</li>', '<li>2</li>', OWN),
    false,
  ],
  [
    'those that old had in it already',
    list(LAMP, ROPE, `<new>${NET}</new>`),
    list(`<new>${NET}${LAMP}${ROPE}</new>`),
    list(LAMP, OWN, ROPE, `<new>${NET}</new>`),
    false,
  ],
])('%s', (_, old, fresh, mine, isInside) => {
  const { text } = carryText([old, fresh, mine], { format: formatNamed('xml'), path: 'list.xml' })
  expect(text).toContain(OWN)
  const [, inside = ''] = /<new>(.*)<\/new>/s.exec(text ?? '') ?? []
  expect(inside.includes(OWN)).toBe(isInside)
})

test('an object around numbers, which another has by chance, is asked', () => {
  const conflicts = (old: string, fresh: string, mine: string) =>
    carryText([old, fresh, mine], { format: formatNamed('json'), path: 'list.json' }).conflicts
  const kinds = (values: string, fresh: string) =>
    conflicts(`{"at":[${values}]}`, `{"at":${fresh}}`, `{"at":[${values},7]}`).map(
      ({ kind }) => kind,
    )
  expect(kinds('1,2', '{"from":[1,2],"to":[5,6]}')).toEqual(['shape'])
  expect(kinds('1,2,3', '{"from":[1,2,3]}')).toEqual([])
})

test('it is told, whatever else is as it was, also where mine took it over and added an entry', () => {
  const wrapped = (...more: string[]): string =>
    `{"all":{"lamp":{"a":1},"rope":{"a":2}${more.join('')}}}`
  const carry = (...texts: [string, string, string]) =>
    carryText(texts, { format: formatNamed('json'), path: 'list.json' })
  const [old, fresh] = ['{"lamp":{"a":1},"rope":{"a":2}}', wrapped()]
  const { text, problems } = carry(old, fresh, '{"lamp":{"a":1},"rope":{"a":2},"own":{}}')
  expect(text).toBe(wrapped(',"own":{}'))
  expect(problems.map(({ code }) => code)).toEqual(['carry/wrapped'])
  const again = carry(old, fresh, wrapped(',"own":{}'))
  expect(again.text).toBe(text)
  expect(again.changes.map(({ key, side, kind }) => [key, side, kind])).toEqual([
    ['all', 'both', 'moved'],
    ['all/own', 'mine', 'added'],
  ])
  expect(again.problems).toEqual([])
})

test('what both brought as different things is asked', () => {
  const texts = ['{"a":1}', '{"a":1,"b":[1,2,3]}', '{"a":1,"b":{"of":[1,2,3]}}'] as const
  const { conflicts } = carryText([...texts], { format: formatNamed('json'), path: 'list.json' })
  expect(conflicts.map(({ kind, key }) => [kind, key])).toEqual([['shape', 'b']])
})

test('of several entries of one kind that stand alone now the first is named', () => {
  const texts = [list(LAMP), list('<net/>'), list(LAMP, ROPE, NET, '<own/>')] as const
  const { problems } = carryText([...texts], { format: formatNamed('xml'), path: 'list.xml' })
  expect(problems.map(({ code, message }) => [code, message.slice(0, 20)])).toEqual([
    ['carry/added-alone', 'you added item[rope]'],
  ])
})

test('where keys belong together nothing is put around them', () => {
  const texts = [
    '{"low":11,"high":22,"fog":33}',
    '{"all":{"low":11,"high":22,"fog":33}}',
    '{"low":11,"high":22,"fog":44}',
  ] as const
  const options = { format: formatNamed('json'), path: 'list.json' }
  const keys = (together: string[][]): string[] =>
    carryText([...texts], { ...options, together }).conflicts.map(({ key }) => key)
  expect(keys([])).toEqual([])
  expect(keys([['low', 'high']])).toEqual(['fog'])
})

test('members of other names that have the same values are others', () => {
  const texts = ['{"a":11,"b":22}', '{"all":{"x":11,"y":22}}', '{"a":11,"b":22,"own":{}}'] as const
  const { problems } = carryText([...texts], { format: formatNamed('json'), path: 'list.json' })
  // in the container of other names mine's would be a stranger
  expect(problems.map(({ code }) => code)).toEqual(['carry/added-alone'])
})

test('attributes stand in no container, whatever else has another name', () => {
  const texts = ['<lamp a="1"/>', '<lamp b="1"/>', '<lamp a="1" own="2"/>'] as const
  const { text, problems } = carryText([...texts], { format: formatNamed('xml'), path: 'a.xml' })
  expect([text, problems]).toEqual(['<lamp b="1" own="2"/>', []])
})

test('of objects under other names around one array none is that of the other', () => {
  const texts = ['[1,2,3]', '{"a":[1,2,3,4]}', '{"b":[1,2,3,5]}'] as const
  const { conflicts } = carryText([...texts], { format: formatNamed('json'), path: 'list.json' })
  expect(conflicts.map(({ kind }) => kind)).toEqual(['two-values'])
})

test.each<[what: string, format: FormatName, entries: string[]]>([
  ['elements on lines', 'xml', ['<a/>', '<b n="1"/>', '<c n="2"/>']],
  [
    'members with comments behind them',
    'json',
    ['"a": 1, // one', '"b": {}, // two', '"c": {} // three'],
  ],
])('what stands before and behind stays where it was: %s', (_, format, entries) => {
  const [first = '', ...rest] = entries
  const [open, close] = format === 'xml' ? ['<list>', '</list>'] : ['{', '}']
  const [put, end] = format === 'xml' ? ['<new>', '</new>'] : ['"new": {', '}']
  const lines = (...all: string[]): string => `${[open, ...all, close].join('\n')}\n`
  const own = format === 'xml' ? '<own n="3"/>' : '"own": {}, // mine'
  const old = lines(`  ${first}`, ...rest.map((each) => `  ${each}`))
  const fresh = lines(`  ${first}`, `  ${put}`, ...rest.map((each) => `    ${each}`), `  ${end}`)
  const mine = lines(`  ${first}`, `  ${own}`, ...rest.map((each) => `  ${each}`))
  const { text } = carryText([old, fresh, mine], { format: formatNamed(format), path: 'list' })
  expect(text).toBe(
    lines(`  ${first}`, `  ${put}`, `    ${own}`, ...rest.map((each) => `    ${each}`), `  ${end}`),
  )
})
