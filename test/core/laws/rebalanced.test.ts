import assert from 'node:assert/strict'
import fc from 'fast-check'
import { describe, test } from 'vitest'
import { carryList, dice, written } from './lists.ts'
import type { Cell, List } from './lists.ts'
import { RUNS } from './runs.ts'

// Entries told by a number, whose values a release balanced anew: some hold now what others held. As long as entries
// between them are as they were, nobody numbered them anew.

const EVERY = 3
const CREWS = ['divers', 'tenders', 'cooks']

interface Tier {
  id: number
  needs: string
  depth: number
}

const cells = (tiers: readonly Tier[]): List =>
  tiers.map(({ id, needs, depth }): Cell => {
    return {
      number: id,
      content: [
        ['id', `${id}`],
        ['needs', needs],
        ['depth', `${depth}`],
        ['open', 'yes'],
      ],
    }
  })

/** One side's list, the other's, and what comes of both. */
function story(seed: number): { old: Tier[]; fresh: Tier[]; mine: Tier[]; expected: Tier[] } {
  const roll = dice(seed)
  const old = Array.from({ length: 5 + roll(25) }, (_, i): Tier => {
    return { id: i + 1, needs: `${CREWS[i % 3] ?? ''} ${4 + i + roll(3)}`, depth: 10 * roll(9) }
  })
  const isKept = (i: number): boolean => i % EVERY === 0
  const fresh = old.map((tier, i) => {
    if (isKept(i) || roll(4) === 0) return tier
    // what stood further up, past one that stays as it is
    const from = i > EVERY && roll(2) === 0 ? old[roll(i - EVERY + 1)] : undefined
    return {
      ...tier,
      needs: from?.needs ?? `wardens ${roll(99)}`,
      depth: from?.depth ?? tier.depth,
    }
  })
  for (let more = roll(3); more > 0; more--)
    fresh.push({ ...(old[roll(old.length - EVERY)] ?? old[0]), id: 200 - more } as Tier)
  const edited = EVERY * roll(Math.ceil(old.length / EVERY))
  const edit = roll(2) === 0 ? { depth: 777 } : { needs: 'nobody' }
  const withEdit = (tiers: readonly Tier[]): Tier[] =>
    tiers.map((tier) => (tier.id === edited + 1 ? { ...tier, ...edit } : tier))
  return { old, fresh, mine: withEdit(old), expected: withEdit(fresh) }
}

describe.each(['json', 'xml', 'ini'] as const)('values that were balanced anew in %s', (format) => {
  test('no edit lands on another entry, and nobody is asked', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const { old, fresh, mine, expected } = story(seed)
        const [a, b, c] = [cells(old), cells(fresh), cells(mine)]
        const wanted = written(cells(expected), format)
        for (const lists of [
          [a, b, c],
          [a, c, b],
        ] as const) {
          const { text, conflicts } = carryList([...lists], format)
          assert.deepEqual(conflicts, [])
          assert.equal(text, wanted)
        }
      }),
      RUNS,
    )
  })
})
