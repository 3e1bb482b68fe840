import { describe, expect, test } from 'vitest'
import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { answered, digestOf } from './any-texts.ts'
import { NO_WAYS } from './short-ways.ts'
import type { Rows, World } from './small-worlds.ts'
import { storiesIn, WORLDS } from './small-worlds.ts'

/** So many stories of each world. */
const STORIES = 16

function carry(world: World, texts: Triple<string>, more: Partial<CarryOptions> = {}): CarriedText {
  const options = { format: formatNamed(world.format), path: 'a', ...world.options, ...more }
  return carryText(texts, { ...options, thresholds: NO_WAYS })
}

/** All that comes of three texts: of the carry, of each answer to all questions, and of comparing without an old. */
function outcomes(world: World, texts: Triple<string>, carried: CarriedText): unknown[] {
  const decided = answered(carried, (more) => carry(world, texts, more))
  const [first] = carried.changes
  return [
    [carried, ...decided, carry(world, texts, { explain: first?.key ?? '' })],
    carry(world, texts, { everyDifference: true }).conflicts,
  ]
}

/** A story in one line: what was there, what is told of it, and a digest of all that comes of it. */
function line(rows: Rows, { changes, conflicts, problems }: CarriedText, all: unknown): string {
  const told = [
    ...changes.map(({ side, kind, key }) => `${side} ${kind} ${key}`),
    ...conflicts.map(({ key, kind }) => `asked ${kind} ${key}`),
    ...problems.map(({ code }) => code),
  ]
  return [...rows.map((row) => row.join(' ')), told.join(', '), digestOf([all])].join(' ; ')
}

/** What holds of every story: a carry repeated changes nothing, and somebody is asked whoever is called mine. */
function expectLaws(world: World, [old, fresh, mine]: Triple<string>, carried: CarriedText): void {
  if (carried.text === undefined) throw new Error('unread')
  const again = carry(world, [old, fresh, carried.text])
  if (carried.conflicts.length === 0) expect(again.text).toBe(carried.text)
  const isAsked = carry(world, [old, mine, fresh]).conflicts.length > 0
  expect(isAsked).toBe(carried.conflicts.length > 0)
}

describe.each(WORLDS)('$name in $format', (world) => {
  test('stories are still, ask on both sides, and come out as they did', async () => {
    const lines = storiesIn(world, STORIES).map((rows) => {
      const [old = '', fresh = '', mine = ''] = rows.map(world.write)
      const texts: Triple<string> = [old, fresh, mine]
      const carried = carry(world, texts)
      expectLaws(world, texts, carried)
      return line(rows, carried, outcomes(world, texts, carried))
    })
    const file = `${world.format}-${world.name.replace(/[ ,]+/g, '-')}.txt`
    await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot(`small-worlds/${file}`)
  })
})
