import fc from 'fast-check'
import stringWidth from 'string-width'
import { describe, expect, test } from 'vitest'
import type { GroupPart } from '../../src/core/grouping/group.ts'
import { divideByLaw } from '../../src/core/grouping/law.ts'
import { groupWords, lastName, lawWords, partWords, subject } from '../../src/show/group-words.ts'
import { showNext } from '../../src/show/next.ts'
import { apart, grouped, widthOf } from '../../src/show/text.ts'
import { shownAge, shownBytes, shownTime } from '../../src/show/units.ts'

const change = (
  key: string,
  old: string | null,
  fresh: string | null,
  path = 'a.xml',
): GroupPart['changes'][number] => ({ kind: 'changed', key, old, new: fresh, path })

describe('long values', () => {
  const shared = 'the same words at the beginning of both '
  test('are cut so that it is seen where they differ', () => {
    expect(
      apart([`${shared}rope and more of it`, `${shared}net and more of it`, null], 20),
    ).toEqual(['…g of both rope and …', '…g of both net and m…', null])
  })
  test('that are short stand as they are', () => {
    expect(apart(['the same rope', 'the same\n  net'], 40)).toEqual([
      'the same rope',
      'the same net',
    ])
  })
})

describe('sizes and times', () => {
  test.each([
    [0, '0 bytes'],
    [999, '999 bytes'],
    [1000, '1.0 kB'],
    [9949, '9.9 kB'],
    [458_000, '458 kB'],
    [999_600, '1.0 MB'],
    [5e12, '5.0 TB'],
    [7e15, '7000 TB'],
  ])('%d is %s', (bytes, shown) => {
    expect(shownBytes(bytes)).toBe(shown)
  })

  test('an age is told in the largest unit that tells, a time as clocks show it', () => {
    const now = new Date(2026, 2, 14, 19, 2)
    const ago = (minutes: number): string =>
      shownAge(new Date(now.getTime() - minutes * 60_000), now)
    expect([0, 5, 130, 60 * 50].map(ago)).toEqual([
      'just now',
      '5 minutes ago',
      '2 hours ago',
      '2 days ago',
    ])
    expect(shownTime(now)).toBe('2026-03-14 19:02')
  })
})

describe('what numbers have in common, in words', () => {
  test.each<[string, [string, string][]]>([
    [
      'each halved',
      [
        ['4', '2'],
        ['10', '5'],
        ['7', '3.5'],
      ],
    ],
    [
      'each doubled',
      [
        ['4', '8'],
        ['10', '20'],
        ['7', '14'],
      ],
    ],
    [
      'each half as much again',
      [
        ['4', '6'],
        ['10', '15'],
        ['6', '9'],
      ],
    ],
    [
      'each times 3',
      [
        ['4', '12'],
        ['10', '30'],
        ['6', '18'],
      ],
    ],
    [
      'each divided by 4',
      [
        ['4', '1'],
        ['8', '2'],
        ['6', '1.5'],
      ],
    ],
    [
      'each up by a quarter',
      [
        ['4', '5'],
        ['8', '10'],
        ['100', '125'],
      ],
    ],
    [
      'each down by 20 percent',
      [
        ['5', '4'],
        ['10', '8'],
        ['100', '80'],
      ],
    ],
    [
      'each times 4/3',
      [
        ['3', '4'],
        ['6', '8'],
        ['30', '40'],
      ],
    ],
    [
      'each plus 0.5',
      [
        ['1', '1.5'],
        ['2', '2.5'],
        ['7', '7.5'],
      ],
    ],
    [
      'each less by 10',
      [
        ['11', '1'],
        ['25', '15'],
        ['70', '60'],
      ],
    ],
    [
      'from 2 to 3',
      [
        ['2', '3'],
        ['2', '3'],
      ],
    ],
  ])('%s', (words, pairs) => {
    const [row] = divideByLaw(pairs.map(([old, fresh], i) => change(`f[${i}]/w`, old, fresh)))
    if (row?.law === undefined) throw new Error('no law was found')
    expect(lawWords(row.law, row.changes)).toBe(words)
  })
})

describe('rows in words', () => {
  const none = (): [] => []

  test('names are those of people, not of keys', () => {
    expect(subject({ pattern: 'find[*]/yield/@most' })).toBe('find yield @most')
    expect(subject({ pattern: '*' })).toBe('at the top')
    expect(lastName('wreck["Paper Boat"]')).toBe('Paper Boat')
    expect(lastName('weather/front~3')).toBe('front')
    expect(lastName('finds/5/120.json')).toBe('120.json')
  })

  test('values that would act on a terminal are made visible', () => {
    const part: GroupPart = {
      kind: 'changed',
      pattern: 'find[*]/name',
      law: undefined,
      changes: [
        change('find[a]/name', '\u001b[31mred', 'x\u0007'),
        change('find[b]/name', 'a', 'b'),
      ],
    }
    expect(partWords(part, none)).not.toMatch(/[\u0000-\u001f]/)
    expect(partWords(part, none)).toContain('\\u001b[31mred to x\\u0007')
  })

  test('in many files a file is named where it is the entry', () => {
    const part: GroupPart = {
      kind: 'changed',
      pattern: 'worth',
      law: { by: 'plus', plus: '5' },
      changes: ['lamp', 'bell', 'clasp', 'float'].map((name) =>
        change('worth', '5', '10', `finds/${name}.json`),
      ),
    }
    const group = {
      path: 'finds/*.json',
      files: 4,
      kind: 'changed',
      pattern: 'worth',
      count: 4,
      entries: [],
      parts: [part],
    } as const
    expect(groupWords({ ...group, parts: [part], entries: [] }, none)).toBe(
      '4 keys, each plus 5: lamp.json 5 to 10, bell.json 5 to 10, clasp.json 5 to 10 and 1 more',
    )
  })
})

test('long commands go over several lines, in the way that shells read on', () => {
  const call = `anagnosis carry --old ${'a'.repeat(30)} --new ${'b'.repeat(30)} --out c`
  const lines = showNext([call], 60)
  expect(lines.every((line) => line.length <= 60)).toBe(true)
  expect(
    lines
      .slice(2)
      .join('\n')
      .replace(/ \\\n\s+/g, ' ')
      .trim(),
  ).toBe(call)
  expect(showNext([], 60)).toEqual([])
})

describe('what is told without the rules of a language', () => {
  test('a width in columns, the same as with them', () => {
    const piece = fc.constantFrom(
      'a',
      ' ',
      '~',
      '·',
      '…',
      '→',
      '⏎',
      '\u001b[1m',
      '\u001b[38;5;3m',
      '\u001b[',
    )
    const other = fc.oneof(piece, fc.string({ unit: 'grapheme', maxLength: 3 }))
    const text = fc.oneof(fc.array(piece), fc.array(other)).map((pieces) => pieces.join(''))
    fc.assert(fc.property(text, (each) => widthOf(each) === stringWidth(each)))
  })

  test('a number, the same as with them', () => {
    fc.assert(fc.property(fc.maxSafeNat(), (each) => grouped(each) === each.toLocaleString('en')))
  })
})
