import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// Mine has what old has first as the last of its list. It may have moved it; or what mine has first is the entry itself,
// changed, and the last one a copy: where vanilla changed or dropped it that is asked, and nowhere else.

const item = (weight: number, price: number, more = ''): string =>
  `<item${more} weight="${weight}" price="${price}" paint="red"/>`
const [A, B, C] = [item(2, 10), item(3, 20), item(4, 30)]
const [changed, own] = [item(2, 11), item(77, 10)]
const named = (id: string, weight: number, price = 50): string => item(weight, price, ` id="${id}"`)
const box = (entry: string): string => entry.replace('item', 'box')

interface Story {
  old?: string[]
  fresh?: string[]
  mine: string[]
}

test.each<[what: string, isAsked: boolean, story: Story]>([
  ['what stands first has a value of it', true, { mine: [own, B, C, A] }],
  ['vanilla dropped it', true, { fresh: [B, C], mine: [own, B, C, A] }],
  ['vanilla left it as it was', false, { fresh: [A, B, item(4, 31)], mine: [own, B, C, A] }],
  ['what stands first has nothing of it', false, { mine: [item(77, 88), B, C, A] }],
  ['nothing stands first', false, { mine: [B, C, A] }],
  ['it is where it was, behind another', false, { mine: [own, A, B, C] }],
  [
    'it stood last, and stands first',
    true,
    { fresh: [A, B, item(4, 31)], mine: [C, A, B, item(4, 99)] },
  ],
  [
    'it is last in old, too',
    false,
    { old: [B, C, A], fresh: [B, C, changed], mine: [B, own, C, A] },
  ],
  [
    'what stands first is another of old',
    false,
    { old: [A, B, item(2, 40)], fresh: [changed, B, item(2, 40)], mine: [item(2, 40), B, A] },
  ],
  [
    'what stands first is something else',
    false,
    {
      old: [A, B, C, box(item(1, 1))],
      fresh: [changed, B, C, box(item(1, 1))],
      mine: [box(own), B, C, A, box(item(1, 1))],
    },
  ],
  [
    'what stands first has a name',
    false,
    {
      old: [A, B, named('x', 5), named('y', 6)],
      fresh: [changed, B, named('x', 5), named('y', 6)],
      mine: [named('z', 7, 10), B, named('x', 5), named('y', 6), A],
    },
  ],
  [
    'it has a name',
    false,
    {
      old: [named('x', 5), named('y', 6), B],
      fresh: [named('x', 9), named('y', 6), B],
      mine: [item(5, 99), named('y', 6), B, named('x', 5)],
    },
  ],
])('%s', (_, isAsked, { old = [A, B, C], fresh = [changed, B, C], mine }) => {
  const list = (entries: string[]): string => `<list>\n  ${entries.join('\n  ')}\n</list>\n`
  const carry = (...three: string[][]) => {
    const texts = three.map(list) as [string, string, string]
    return carryText(texts, { format: formatNamed('xml'), path: 'list.xml' }).conflicts
  }
  expect(carry(old, fresh, mine).length).toBe(isAsked ? 1 : 0)
  expect(carry(old, mine, fresh).length).toBe(isAsked ? 1 : 0)
})
