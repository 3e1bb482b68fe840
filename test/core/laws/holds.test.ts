import assert from 'node:assert/strict'
import fc from 'fast-check'
import { SaxesParser } from 'saxes'
import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import type { Find, HoldKind, HoldStory, Lying, Ship } from './holds.ts'
import { carryShips, findIn, HOLD_KINDS, holdStory, shipText } from './holds.ts'
import { RUNS } from './runs.ts'

const FORMATS = ['json', 'xml'] as const
type Format = (typeof FORMATS)[number]

/** What a result holds, read by somebody else's reader. */
function lyingIn(text: string, format: Format): Lying[] {
  const lying: Lying[] = []
  const put = (hold: string, parts: readonly (readonly [string, string])[]): void => {
    const kit = parts.filter(([name]) => name === 'kit').map(([, value]) => value)
    const fields = new Map(parts.filter(([name]) => !['kit', 'mark', 'id'].includes(name)))
    const of = (name: string): string | undefined => parts.find(([each]) => each === name)?.[1]
    lying.push({ hold, find: { mark: of('mark') ?? '', id: of('id'), fields, kit } })
  }
  if (format === 'json') {
    type List = readonly Record<string, string | string[]>[]
    const holds = JSON.parse(text) as Record<string, List | Record<string, List>>
    for (const [hold, list] of Object.entries(holds))
      for (const each of Array.isArray(list) ? (list as List) : Object.values(list).flat())
        put(
          hold,
          Object.entries(each as Record<string, string | string[]>).flatMap(([name, value]) =>
            [value].flat().map((one) => [name, one] as const),
          ),
        )
    return lying
  }
  const path: string[] = []
  let parts: [string, string][] = []
  let [hold, words] = ['', '']
  const parser = new SaxesParser()
  parser.on('opentag', ({ name, attributes }) => {
    path.push(name)
    words = ''
    if (name !== 'find') return
    hold = path[1] ?? ''
    parts = Object.entries(attributes)
  })
  parser.on('text', (more) => (words += more))
  parser.on('closetag', ({ name }) => {
    path.pop()
    if (name === 'find') put(hold, parts)
    else if (path.at(-1) === 'find') parts.push([name, words])
  })
  parser.on('error', (error) => {
    throw error
  })
  parser.write(text).close()
  return lying
}

const formOf = ({ id, fields, kit }: Find): string => JSON.stringify([id, [...fields].sort(), kit])

/** What two changed of one value; throws where they changed it differently. */
function merged<T>(old: T, fresh: T, mine: T): T {
  if (fresh === old || fresh === mine) return mine
  assert.equal(mine, old, 'both changed a value, and nobody is asked')
  return fresh
}

/** Nothing is asked, so each entry has to be what both made of it, and lie where one of them put it. */
function expectEachMerged({ ships }: HoldStory, lying: readonly Lying[]): void {
  assert.equal(
    new Set(lying.map(({ find }) => find.mark)).size,
    lying.length,
    'one entry stands twice',
  )
  const marks = new Set(ships.flatMap((ship) => [...ship.values()].flat().map(({ mark }) => mark)))
  for (const mark of marks) {
    const [old, fresh, mine] = ships.map((ship: Ship) => findIn(ship, mark))
    const there = lying.find(({ find }) => find.mark === mark)
    const left = fresh ?? mine
    if (old !== undefined && (fresh === undefined || mine === undefined)) {
      const isChanged = left !== undefined && formOf(left.find) !== formOf(old.find)
      assert.ok(!isChanged, 'one changed what the other dropped')
      assert.equal(there, undefined, 'what one dropped is there again')
      continue
    }
    const [one, other] = [fresh ?? mine, mine ?? fresh]
    if (one === undefined || other === undefined) throw new Error('an entry that nobody has')
    const was = old ?? one
    assert.equal(there?.hold, merged(was.hold, one.hold, other.hold))
    for (const name of new Set([one, other].flatMap(({ find }) => [...find.fields.keys()])))
      assert.equal(
        there?.find.fields.get(name),
        merged(
          ...([was, one, other].map(({ find }) => find.fields.get(name)) as [
            string,
            string,
            string,
          ]),
        ),
      )
    const kits = [was, one, other].map(({ find }) => find.kit.join())
    const [kit = '', inNew = '', inMine = ''] = kits
    if (inNew === kit || inMine === kit || inNew === inMine)
      assert.equal(there?.find.kit.join(), merged(kit, inNew, inMine))
  }
}

/** One element of a name that has no id is a setting, and no entry of a list. */
function isSetting(ship: Ship): boolean {
  return [...ship.values()].some(
    (finds) => finds.length < 2 && finds.some(({ id }) => id === undefined),
  )
}

function expectLaws(seed: number, kind: HoldKind, format: Format): void {
  const story = holdStory(seed, kind)
  const [old, fresh, mine] = story.ships
  if (format === 'xml' && story.ships.some(isSetting)) return
  const { isMapping } = kind
  const [plain, inNew] = [{ isMapping }, { isMapping, isWrapped: story.isWrapped }]
  const carried = carryShips([old, fresh, mine], format, [plain, inNew, plain])
  const isAsked = carried.conflicts.length > 0
  const told = (each: CarriedText): string =>
    [each.text, ...each.conflicts.flatMap((one) => [one.new, one.mine])].join('\n')
  assert.deepEqual(
    story.written.filter((word) => !told(carried).includes(word)),
    [],
    'lost',
  )
  const lying = lyingIn(carried.text ?? '', format)
  if (!isAsked) expectEachMerged(story, lying)
  else assert.ok(story.isShared || story.isWrapped, 'asked in vain')
  // in an element more and beside it, what has no id is told apart otherwise
  if (!story.isWrapped || kind.ids === 'all') {
    const again = carryShips([old, fresh, carried.text ?? ''], format, [plain, inNew, plain])
    assert.equal(again.text, carried.text, 'a repeated carry changes the result')
  }
  for (const take of isAsked ? (['vanilla', 'mine'] as const) : []) {
    const decisions = carried.conflicts.map(({ key }) => ({ key, by: 'decision', take }))
    const settled = carryShips([old, fresh, mine], format, [plain, inNew, plain], { decisions })
    assert.deepEqual([settled.conflicts, settled.notApplied], [[], undefined], 'not to be decided')
  }
  const back = carryShips([old, mine, fresh], format, [plain, plain, inNew])
  assert.equal(back.conflicts.length > 0, isAsked, 'exchanged, it is asked otherwise')
}

const all = FORMATS.flatMap((format) => HOLD_KINDS.map((kind) => ({ format, kind }))).filter(
  ({ format, kind }) => format === 'json' || kind.isMapping !== true,
)

describe.each(all)('entries with parts, $kind.name, in $format', ({ format, kind }) => {
  test('each is what both made of it, wherever it lies, or somebody is asked', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => expectLaws(seed, kind, format)),
      RUNS,
    )
  })
})

test('an oracle that knows each entry sees one that is wrong', () => {
  const [kind] = HOLD_KINDS
  const seeds = Array.from({ length: 50 }, (_, seed) => seed)
  const story = seeds
    .map((seed) => holdStory(seed, kind as HoldKind))
    .find(({ written }) => written.length > 3)
  if (story === undefined) throw new Error('no story with edits')
  const lying = lyingIn(shipText(story.ships[0], 'json'), 'json')
  expect(() => expectEachMerged(story, lying)).toThrow()
})
