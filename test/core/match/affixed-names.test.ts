import { expect, test } from 'vitest'
import { affixedNames } from '../../../src/core/match/affixed-names.ts'

/** Which names are taken for one. */
function pairs(old: readonly string[], other: readonly string[]): string[] {
  const byName = (names: readonly string[]): Map<string, number> =>
    new Map(names.map((name, i) => [name, i]))
  return affixedNames(byName(old), byName(other)).map(([i, j]) => `${old[i]} ${other[j]}`)
}

test('names that all got one text before or behind them, or lost it, are known again', () => {
  const [names, sea] = [
    ['lamp', 'bell', 'rope'],
    ['sea-rope', 'sea-lamp', 'sea-bell'],
  ]
  expect(pairs(names, sea)).toEqual(['lamp sea-lamp', 'bell sea-bell', 'rope sea-rope'])
  expect(pairs(sea, names)).toEqual(['sea-rope rope', 'sea-lamp lamp', 'sea-bell bell'])
  expect(pairs(names, ['rope_2', 'bell_2'])).toEqual(['bell bell_2', 'rope rope_2'])
  expect(pairs(['rope_2', 'bell_2'], names)).toEqual(['rope_2 rope', 'bell_2 bell'])
})

test.each([
  ['one name is chance', ['lamp'], ['sea-lamp']],
  [
    'half of the names are no more than the other half',
    ['lamp', 'bell', 'rope', 'hook'],
    ['a-lamp', 'a-bell'],
  ],
  [
    'a name that stands in both was not changed',
    ['lamp', 'bell', 'rope'],
    ['a-lamp', 'a-bell', 'rope'],
  ],
  ['each got another text', ['lamp', 'bell'], ['a-lamp', 'b-bell']],
  ['numbers are no names', ['1', '2', '3'], ['11', '12', '13']],
])('nothing is known again: %s', (_, old, other) => {
  expect(pairs(old, other)).toEqual([])
})
