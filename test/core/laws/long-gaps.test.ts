import assert from 'node:assert/strict'
import fc from 'fast-check'
import { describe, test } from 'vitest'
import type { Cell, Dice } from './lists.ts'
import { carryList, dice, written } from './lists.ts'
import { RUNS } from './runs.ts'

// Entries that nothing names, of which a release changed every one: no equal entry divides the list, and each is
// known again by what it alone has left.

const FIELDS = ['x', 'y', 'z', 'turn']

type Spot = Readonly<Record<string, string>>

const spot = (roll: Dice): Spot =>
  Object.fromEntries(FIELDS.map((name) => [name, `${roll(name === 'turn' ? 4 : 9000)}.5`]))

/** The name of a field, drawn. */
const fieldOf = (roll: Dice): string => FIELDS[roll(FIELDS.length)] ?? ''

interface Spots {
  number: number
  old: Spot
  fresh: Spot
  mine: Spot
  expected: Spot
}

function story(seed: number): { old: Cell[]; fresh: Cell[]; mine: Cell[]; expected: Cell[] } {
  const roll = dice(seed)
  const spots = Array.from({ length: 55 + roll(40) }, () => spot(roll))
  const all = spots.map((old, number): Spots => {
    const [changed, edited] = [fieldOf(roll), fieldOf(roll)]
    // now and then it holds what another held
    const other = roll(4) === 0 ? spots[roll(spots.length)]?.[changed] : undefined
    const fresh = { ...old, [changed]: other ?? `${9000 + roll(9000)}` }
    const isEdited = changed !== edited && roll(10) === 0
    const edit = isEdited ? { [edited]: `-${number}` } : {}
    return { number, old, fresh, mine: { ...old, ...edit }, expected: { ...fresh, ...edit } }
  })
  const cells = (of: (each: Spots) => Spot): Cell[] =>
    all.map((each) => ({ number: each.number, content: Object.entries(of(each)) }))
  const [fresh, expected] = [cells((each) => each.fresh), cells((each) => each.expected)]
  for (let more = roll(4); more > 0; more--) {
    const brought = { number: -1, content: Object.entries(spot(roll)) }
    const at = roll(fresh.length)
    fresh.splice(at, 0, brought)
    expected.splice(at, 0, brought)
  }
  return { old: cells((each) => each.old), fresh, mine: cells((each) => each.mine), expected }
}

describe.each(['json', 'xml', 'ini'] as const)(
  'a list that was changed all through in %s',
  (format) => {
    test('each entry is known again', () => {
      fc.assert(
        fc.property(fc.nat(), (seed) => {
          const { old, fresh, mine, expected } = story(seed)
          for (const lists of [
            [old, fresh, mine],
            [old, mine, fresh],
          ] as const) {
            const { text, conflicts } = carryList([...lists], format)
            assert.deepEqual(conflicts, [])
            assert.equal(text, written(expected, format))
          }
        }),
        { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 25) },
      )
    })
  },
)
