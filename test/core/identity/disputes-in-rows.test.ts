import { expect, test } from 'vitest'
import type { Dispute } from '../../../src/core/identity/disputes-in-rows.ts'
import { disputesInRows } from '../../../src/core/identity/disputes-in-rows.ts'

// An entry is its number and what it holds: `3lamp-5`.

const numberOf = (entry: string): string => /^\d+/.exec(entry)?.[0] ?? ''
const held = (entry: string): string => entry.slice(numberOf(entry).length)
const words = (entry = ''): string[] => held(entry).split('-')

/** How much of what an entry holds another does. */
function alike(one: string, other: string | undefined): number {
  return words(one).filter((word) => words(other).includes(word)).length
}

/** What the entries hold whose numbers were handed on to others, as far as that speaks against the numbers. */
function inRows(old: string, fresh: string): string {
  const [ones, others] = [old.split(' '), fresh.split(' ')]
  const all = others.map((_, i) => 100 + i)
  const at = (b: number | undefined): string | undefined => others[(b ?? 0) - 100]
  const partner = (a: number): number | undefined => {
    const i = others.findIndex((entry) => numberOf(entry) === numberOf(ones[a] ?? ''))
    return i < 0 ? undefined : 100 + i
  }
  const disputes = ones.flatMap((one, a): Dispute[] => {
    const b = 100 + others.findIndex((other) => held(other) === held(one))
    if (b < 100 || b === partner(a)) return []
    const from = ones.findIndex((_, other) => partner(other) === b)
    return [{ a, b, byNumber: partner(a), handedFrom: from < 0 ? undefined : from }]
  })
  const found = disputesInRows(disputes, [{ ones: [...ones.keys()], others: all }], {
    partner,
    isKept: (a) => at(partner(a)) === ones[a],
    nearer: (a, b) => alike(ones[a] ?? '', at(b)) - alike(ones[a] ?? '', at(partner(a))),
  })
  return found.map(({ a }) => held(ones[a] ?? '')).join(' ')
}

test.each([
  ['one was put between', '1lamp 2rope 3net', '1lamp 2hook 3rope 4net', 'rope net'],
  ['one was taken out', '1lamp 2rope 3net 4hook', '1lamp 2net 3hook', 'net hook'],
  ['two were exchanged', '1lamp 2rope 3net', '1net 2rope 3lamp', 'lamp net'],
  [
    'three went round',
    '1lamp 2tar 3rope 4buoy 5net',
    '1net 2tar 3lamp 4buoy 5rope',
    'lamp rope net',
  ],
  [
    'one holds what another held, past one that is as it was',
    '1lamp 2rope 3net',
    '1tar 2rope 3lamp',
    '',
  ],
  ['the same further up', '1lamp 2rope 3net', '1net 2rope', ''],
  ['a new one holds it', '1lamp 2rope', '1tar 2rope 3lamp', ''],
  [
    'one holds what the one next to it held, and as much speaks for the numbers',
    '1lamp-5 2rope-4 3net-7',
    '1tar-9 2lamp-5 3net-8',
    '',
  ],
  [
    'two do, and less speaks for the numbers',
    '1lamp-5 2rope-4 3net-7 4hook-2',
    '1tar-9 2lamp-5 3rope-4 4hook-3',
    'lamp-5 rope-4',
  ],
  [
    'behind it others went on, too, and were changed',
    '1lamp-5 2rope-4 3net-7',
    '1tar-9 2lamp-5 3rope-1 4net-2',
    'lamp-5',
  ],
  [
    'where one was put in and one taken out, what was changed behind them says nothing',
    '1lamp 2rope 3net 4hook 5tar 6buoy-1 7silt-1 8kelp-1',
    '1lamp 2reef 3rope 4net 5tar 6buoy-2 7silt-2 8kelp-2',
    'rope net',
  ],
  [
    'another holds what one had past one that is as it was, as well',
    '1lamp 2rope 3net 5buoy',
    '1silt 2lamp 3net 4rope 5buoy',
    '',
  ],
])('%s', (_, old, fresh, wanted) => {
  expect(inRows(old, fresh)).toBe(wanted)
})
