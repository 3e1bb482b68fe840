import { expect, test } from 'vitest'
import type { Side, Triple } from '../../../src/core/document/sides.ts'
import { SIDES, triple } from '../../../src/core/document/sides.ts'
import { surely } from '../../../src/core/document/surely.ts'
import { Kind } from '../../../src/core/document/kind.ts'
import { readDoc } from '../../../src/core/formats/doc.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { Identities } from '../../../src/core/identity/identities.ts'
import { NodeItem } from '../../../src/core/match/item.ts'
import type { ListMatch } from '../../../src/core/match/match-list.ts'
import { matchList } from '../../../src/core/match/match-list.ts'
import { scopeOf } from '../../../src/core/match/tell-apart.ts'

/** The lists of three documents, as JSON, matched. */
function matched(lists: Triple<string>): ListMatch {
  const docs = triple((side) => surely(readDoc(formatNamed('json'), lists[side])))
  const identities = new Identities(docs, new Map())
  const items = triple((side) =>
    docs[side]
      .children(docs[side].root())
      .map((node) => new NodeItem(docs[side], node, identities.known)),
  )
  return matchList(items, scopeOf(Kind.Array, '', false, identities))
}

/** Of each class the place of its item in old, new and mine, and why these are one: `0 1 - equal`. */
function classesOf({ links, stretches, holding, isQuestion }: ListMatch): string[] {
  const place = (side: Side, cls: number): string => {
    const at = links.member(side, cls)
    return at < 0 ? '-' : `${at}`
  }
  const classes: string[] = []
  for (let cls = 0; cls < links.length; cls++) {
    const places = SIDES.map((side) => place(side, cls)).join(' ')
    if (places === '- - -') continue
    const isAsked = stretches.some((stretch) => stretch.has(cls))
    classes.push(`${places} ${links.reason(cls) ?? 'alone'}${isAsked ? ', asked' : ''}`)
  }
  if (holding !== undefined)
    classes.push(
      `held by ${holding === 'both' ? 'both' : `${holding.side}${holding.isSure ? '' : ' perhaps'}`}`,
    )
  return isQuestion ? [...classes, 'one question'] : classes
}

const list = (...items: string[]): string => `[${items.join(', ')}]`
const words = (text: string): string => list(...text.split(' ').map((word) => `"${word}"`))
const find = (id: string, bed: string, worth: number): string =>
  `{"id": "${id}", "bed": "${bed}", "worth": ${worth}}`
/** An entry that nothing names. */
const crate = (worth: number, holds: string): string =>
  `{"worth": ${worth}, "holds": ${words(holds)}}`
const boat = (id: string, ...values: number[]): string =>
  `{"id": "${id}", ${values.map((value, at) => `"v${at}": ${value}`).join(', ')}}`

const [rope, net, lamp] = ['rope tar hook', 'net oar mast', 'lamp wick oil']
const [hulk, raft, smack] = [
  boat('hulk', 11, 12, 13, 14, 15, 16),
  boat('raft', 21, 22, 23, 24, 25, 26),
  boat('smack', 31, 32, 33, 34, 35, 36),
]
const ketch = boat('ketch', 11, 12, 13, 14, 15, 16)

test.each<[string, Triple<string>, string[]]>([
  [
    'by identity, however much is changed',
    [
      list(find('a', 'kelp', 1), find('b', 'sand', 2)),
      list(find('b', 'reef', 9), find('a', 'kelp', 1)),
      list(find('a', 'kelp', 7)),
    ],
    ['0 1 0 identity', '1 0 - identity'],
  ],
  [
    'equal words in order',
    [words('empty empty rope'), words('empty knife rope'), words('lamp empty rope')],
    ['0 0 0 place', '1 1 1 place', '2 2 2 equal'],
  ],
  [
    'what both put in',
    [words('rope tar'), words('rope hook oar tar'), words('rope hook tar net')],
    ['0 0 0 equal', '1 3 2 equal', '- 1 1 equal-in-both', '- 2 - alone', '- - 3 alone'],
  ],
  [
    'what moved as it was',
    [words('a b c d'), words('b c d a'), words('a b c d e')],
    ['0 3 0 moved', '1 0 1 equal', '2 1 2 equal', '3 2 3 equal', '- - 4 alone'],
  ],
  [
    'what shares most',
    [
      list(crate(1, rope), crate(1, net)),
      list(crate(5, rope), crate(1, net)),
      list(crate(1, rope + ' lamp'), crate(3, net)),
    ],
    ['0 0 0 alike', '1 1 1 alike'],
  ],
  [
    'as many plain ones in one place',
    [words('a b c'), words('a x c'), words('a b c d')],
    ['0 0 0 equal', '1 1 1 place', '2 2 2 equal', '- - 3 alone'],
  ],
  [
    'a tuple that one changed',
    ['["spawn", 3]', '["spawn", 4]', '["spawn", 3]'],
    ['0 0 0 place', '1 1 1 place'],
  ],
  [
    'a tuple that both changed',
    ['[1, 10]', '[6, 10]', '[1, 4]'],
    ['0 0 0 place', '1 1 1 place', 'one question'],
  ],
  [
    'a call that both gave more',
    ['["spawn", 3]', '["spawn", 3, 1]', '["spawn", 3, 2]'],
    [
      '0 - - alone',
      '1 - - alone',
      '- 0 - alone',
      '- 1 - alone',
      '- 2 - alone',
      '- - 0 alone',
      '- - 1 alone',
      '- - 2 alone',
      'one question',
    ],
  ],
  [
    'switches by index',
    ['[true, false]', '[true, true]', '[false, false]'],
    ['0 0 0 place', '1 1 1 place'],
  ],
  [
    'what one has already',
    [words('a a b'), words('a a a b'), words('a a a b c')],
    ['0 0 0 equal', '1 1 1 equal', '- 2 2 equal', '2 3 3 equal', '- - 4 alone', 'held by 2'],
  ],
  [
    'a stretch that both rewrote',
    [words('a b c d'), words('a x y z d'), words('a v w d')],
    [
      '0 0 0 equal',
      '1 - 1 place, asked',
      '2 - 2 place, asked',
      '3 4 3 equal',
      '- 1 - alone, asked',
      '- 2 - alone, asked',
      '- 3 - alone, asked',
    ],
  ],
  [
    'moved and changed',
    [
      list(crate(1, rope), crate(1, net), crate(1, lamp)),
      list(crate(1, net), crate(1, lamp), crate(8, rope)),
      list(crate(1, rope), crate(1, net), crate(4, lamp)),
    ],
    ['0 2 0 moved-and-changed', '1 0 1 equal', '2 1 2 alike'],
  ],
  [
    'renamed beyond doubt',
    [
      list(hulk, raft, smack),
      list(ketch, raft, smack),
      list(boat('hulk', 11, 12, 13, 14, 15, 99), raft, smack),
    ],
    ['0 0 0 renamed', '1 1 1 identity', '2 2 2 identity'],
  ],
])('%s', (_title, lists, wanted) => {
  expect(classesOf(matched(lists))).toEqual(wanted)
})
