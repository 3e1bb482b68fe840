import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// What one side puts in beside what the other dropped: it is asked only where nothing but order holds groups together.

const keys = (...groups: string[]): string => `[Gear]\n${groups.join('')}`
const group = (name: string, load: number, ...more: string[]): string =>
  [`Name=${name}`, `Load=${load}`, ...more].map((line) => `${line}\n`).join('')
const boat = (name: string, ...crew: number[]): string =>
  `[${name}]\n${crew.map((each, at) => `Crew${at}=${each}\n`).join('')}`
const bed = (...entries: string[]): string => `<bed>${entries.join('')}</bed>`

test.each<[what: string, format: FormatName, texts: [string, string, string], asked: string[]]>([
  [
    'a key of a group',
    'ini',
    [
      keys(group('oar', 5), group('net', 3), group('tar', 1)),
      keys(group('oar', 5), group('net', 3, 'Bed=2'), group('tar', 1, 'Bed=4')),
      keys(group('oar', 5), group('tar', 1)),
    ],
    ['Gear/Load~3'],
  ],
  [
    'a group of its own',
    'ini',
    [
      keys(group('oar', 5), group('net', 3), group('tar', 1)),
      keys(group('oar', 5), group('net', 3), group('bell', 8), group('tar', 1)),
      keys(group('oar', 5), group('tar', 1)),
    ],
    [],
  ],
  [
    'a group of its own, before it',
    'ini',
    [
      keys(group('oar', 5), group('net', 3), group('tar', 1)),
      keys(group('oar', 5), group('bell', 8), group('net', 3), group('tar', 1)),
      keys(group('oar', 5), group('tar', 1)),
    ],
    [],
  ],
  [
    'a key that no other group has',
    'ini',
    [
      keys(group('oar', 5), group('net', 3), group('tar', 1)),
      keys(group('oar', 5), group('net', 3, 'Mode=deep'), group('tar', 1)),
      keys(group('oar', 5), group('tar', 1)),
    ],
    [],
  ],
  [
    'sections, which hold their keys together',
    'ini',
    [
      boat('Raft') +
        boat('Smack', 5, 6) +
        boat('Ketch', 2, 7) +
        boat('Smack', 3, 8) +
        boat('Ketch', 4, 9),
      boat('Smack', 5, 6) +
        boat('Ketch', 2, 7) +
        boat('Smack', 3, 8) +
        boat('Ketch', 11, 12) +
        boat('Ketch', 4, 9),
      boat('Raft') + boat('Smack', 5, 6) + boat('Ketch', 2, 7) + boat('Ketch', 4, 9),
    ],
    [],
  ],
  [
    'elements that say what they are',
    'xml',
    [
      bed('<crab w="1"/>', '<eel w="2"/>', '<crab w="3"/>', '<eel w="4"/>'),
      bed('<crab w="1"/>', '<eel w="2"/>', '<crab w="3"/>', '<eel w="9"/>', '<eel w="4"/>'),
      bed('<crab w="1"/>', '<eel w="2"/>', '<eel w="4"/>'),
    ],
    [],
  ],
])('%s', (_, format, texts, asked) => {
  const { conflicts } = carryText(texts, { format: formatNamed(format), path: `gear.${format}` })
  expect(conflicts.map(({ key }) => key)).toEqual(asked)
})
