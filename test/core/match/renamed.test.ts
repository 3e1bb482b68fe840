import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// What vanilla gave another element name, or another section name, is never taken for one, but it is named: in a note
// where mine had dropped the entry, and as what it may be where mine had changed it.

const entry = (name: string, at: number, more = ''): string =>
  `<${name}${more} worth="${at}1" bed="sand-${at}" depth="${at}7" crew="${at}3" light="${at}9"/>`
const list = (...entries: string[]): string => `<list>\n  ${entries.join('\n  ')}\n</list>\n`
const old = [entry('lamp', 1), entry('rope', 2), entry('net', 3)]
const fresh = [entry('oil-lamp', 1), entry('old-rope', 2), entry('big-net', 3)]
const carry = (...three: string[][]) =>
  carryText(three.map((each) => list(...each)) as [string, string, string], {
    format: formatNamed('xml'),
    path: 'list.xml',
  })

test('what mine dropped is named where it is back under another name', () => {
  const { problems, conflicts } = carry(old, fresh, old.slice(1))
  expect(conflicts).toEqual([])
  expect(problems.map(({ message }) => message)).toEqual([
    "you dropped lamp, and vanilla's new oil-lamp is much like it",
  ])
})

test('what mine changed is asked, with what it may be now', () => {
  const mine = old.with(0, entry('lamp', 1).replace('17', '99'))
  const { conflicts } = carry(old, fresh, mine)
  expect(conflicts.map(({ key, kind, perhaps }) => [key, kind, perhaps?.key])).toEqual([
    ['lamp', 'gone-in-vanilla', 'oil-lamp'],
  ])
})

test('of one that is found under its own name no other is named', () => {
  const before = [1, 2, 3].map((at) => entry('item', at, ` id="i${at}"`))
  const now = [entry('item', 1, ' id="other"'), ...before.slice(1), entry('box', 1, ' id="box"')]
  const { problems, conflicts } = carry(before, now, before.slice(1))
  expect(problems).toEqual([])
  expect(conflicts.map(({ key, kind, perhaps }) => [key, kind, perhaps])).toEqual([
    ['item[other]', 'gone-in-mine', undefined],
  ])
})

test('what holds a value alone is named by nothing', () => {
  const plain = (name: string, at: number): string => `<${name}>${at}</${name}>`
  const before = [plain('a', 11), plain('b', 22), plain('c', 33)]
  const now = [plain('x', 11), plain('y', 22), plain('z', 33)]
  expect(carry(before, now, before.slice(1)).problems).toEqual([])
})

test('what all have in common says nothing of which is which', () => {
  const alike = (name: string, worth: number): string =>
    `<${name} worth="${worth}" bed="sand" depth="7" crew="3" light="9"/>`
  const before = [alike('lamp', 1), alike('rope', 2), alike('net', 3), alike('bell', 4)]
  const now = [...before.slice(1), alike('buoy', 5)]
  expect(carry(before, now, before.slice(1)).problems).toEqual([])
})
