import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { RUNS } from './runs.ts'

// Lists so short that nearly all there are can be tried: nobody can tell for sure what moved and what was
// replaced, so that whatever is not asked has to be right in every reading.

interface Entry {
  id?: string
  worth: number
}
type Item = string | number | boolean | Entry | readonly number[]
type Lists = Triple<readonly Item[]>

interface Result {
  hold: Item[]
  isAsked: boolean
}

function carry(lists: Lists): Result {
  const texts = triple((side) => JSON.stringify({ hold: lists[side] }))
  const { text, conflicts } = carryText(texts, { format: formatNamed('json'), path: 'hold.json' })
  const { hold } = JSON.parse(text ?? '') as { hold: Item[] }
  return { hold, isAsked: conflicts.length > 0 }
}

const times = (list: readonly Item[], item: Item): number =>
  list.filter((each) => JSON.stringify(each) === JSON.stringify(item)).length

/** Nothing that a side brought is lost where the other has not fewer of it, and nothing comes of itself. */
function expectCounts(lists: Lists, { hold }: Result): void {
  for (const item of lists.flat()) {
    const [old, fresh, mine] = triple((side) => times(lists[side], item))
    const is = times(hold, item)
    if (fresh > old && mine >= old) expect(is).toBeGreaterThanOrEqual(fresh)
    if (mine > old && fresh >= old) expect(is).toBeGreaterThanOrEqual(mine)
    expect(is).toBeLessThanOrEqual(old + Math.max(0, fresh - old) + Math.max(0, mine - old))
    expect(is).toBeGreaterThanOrEqual(old + Math.min(0, fresh - old) + Math.min(0, mine - old))
  }
}

const withId = (list: readonly Item[], id: string): Item[] =>
  list.filter((item) => typeof item === 'object' && 'id' in item && item.id === id)

/** An entry whose id is told once at most in each document is what both made of it. */
function expectNamed(lists: Lists, { hold }: Result): void {
  for (const id of ['lamp', 'rope']) {
    const found = triple((side) => withId(lists[side], id))
    if (found.some(({ length }) => length > 1)) continue
    const [old, fresh, mine] = found.map((list) => JSON.stringify(list))
    expect(fresh === old || mine === old || fresh === mine).toBe(true)
    expect(JSON.stringify(withId(hold, id))).toBe(fresh === old ? mine : fresh)
  }
}

/** In longer ones both sides may bring two of a value and one drop the one there was. */
const LONGEST = 3
const values = ['kelp', 'rope', 'tar']
const entries = [undefined, 'lamp', 'rope'].flatMap((id): Entry[] =>
  [1, 2].map((worth) => (id === undefined ? { worth } : { id, worth })),
)

describe.each<{
  of: string
  items: readonly Item[]
  /** Whether a repeated carry changes nothing where it was asked, too: else what stands there is an edit like any other. */
  isStillWhereAsked: boolean
  example: Lists[]
}>([
  {
    of: 'repeated values',
    items: values,
    isStillWhereAsked: true,
    // what both brought, each in another place; what one moved and the other brought
    example: [
      [
        ['kelp', 'tar'],
        ['tar', 'rope'],
        ['kelp', 'rope', 'tar'],
      ],
      [
        ['kelp', 'rope', 'tar'],
        ['kelp', 'rope', 'kelp'],
        ['rope', 'tar', 'kelp'],
      ],
    ],
  },
  {
    of: 'entries of which some have an id, some one that others have, too',
    items: entries,
    isStillWhereAsked: false,
    example: [
      // one id, added by both where most entries have none
      [
        [{ worth: 1 }],
        [{ worth: 1 }, { id: 'lamp', worth: 1 }],
        [{ worth: 1 }, { id: 'rope', worth: 1 }, { id: 'lamp', worth: 2 }],
      ],
      // an id that mine put in the place of another, which vanilla changed
      [
        [{ worth: 2 }, { id: 'rope', worth: 1 }, { worth: 1 }],
        [{ worth: 2 }, { worth: 2 }, { id: 'rope', worth: 2 }],
        [{ worth: 2 }, { id: 'lamp', worth: 1 }, { worth: 1 }],
      ],
      // one that vanilla dropped, where the others look as if they had been carried already
      [
        [{ id: 'lamp', worth: 1 }],
        [{ worth: 1 }, { worth: 2 }, { worth: 1 }],
        [{ worth: 1 }, { worth: 1 }, { id: 'lamp', worth: 2 }],
      ],
      // an id that vanilla dropped with all others, where mine had changed its entry
      [
        [{ id: 'lamp', worth: 2 }, { worth: 1 }],
        [{ worth: 1 }, { worth: 1 }],
        [{ worth: 1 }, { id: 'lamp', worth: 1 }, { id: 'rope', worth: 2 }],
      ],
      // one of two that are equal was dropped, and one changed: which, nobody knows
      [
        [
          { id: 'rope', worth: 1 },
          { id: 'rope', worth: 1 },
          { id: 'lamp', worth: 2 },
        ],
        [
          { id: 'rope', worth: 2 },
          { id: 'rope', worth: 1 },
        ],
        [{ id: 'rope', worth: 1 }, { worth: 1 }],
      ],
    ],
  },
])('short lists of $of', ({ items, isStillWhereAsked, example }) => {
  test('are right or asked, each way round, and a repeated carry changes nothing', () => {
    const list = fc.array(fc.constantFrom(...items), { maxLength: LONGEST })
    fc.assert(
      fc.property(list, list, list, (old, fresh, mine) => {
        const result = carry([old, fresh, mine])
        expect(carry([old, mine, fresh]).isAsked).toBe(result.isAsked)
        if (!result.isAsked || isStillWhereAsked)
          expect(carry([old, fresh, result.hold]).hold).toEqual(result.hold)
        if (result.isAsked) return
        expectCounts([old, fresh, mine], result)
        expectNamed([old, fresh, mine], result)
      }),
      { ...RUNS, numRuns: RUNS.numRuns * 6, examples: example as never },
    )
  })
})

describe('lists of values of several kinds', () => {
  const kinds: Item[] = [1, 2, 'tar', true, { id: 'lamp', worth: 1 }, { worth: 1 }, [1]]
  const list = fc.array(fc.constantFrom(...kinds), { maxLength: 2 })
  const runs = { ...RUNS, numRuns: RUNS.numRuns * 6 }

  test('what one side wrote otherwise and did not change is as the other side has it', () => {
    const text = (hold: readonly Item[]): string => `{ "hold": ${JSON.stringify(hold)} }`
    const carried = (texts: Triple<string>): unknown => {
      const { text: made, conflicts } = carryText(texts, {
        format: formatNamed('json'),
        path: 'hold.json',
      })
      return { made: (JSON.parse(made ?? '') as { hold: Item[] }).hold, asked: conflicts.length }
    }
    const spaced = (hold: readonly Item[]): string => text(hold).replaceAll(',', ' , ')
    const example = [
      [1, 2],
      [
        { id: 'lamp', worth: 1 },
        { id: 'rope', worth: 1 },
      ],
    ] as [Item[], Item[]]
    fc.assert(
      fc.property(list, list, (old, changed) => {
        const wanted = { made: changed, asked: 0 }
        expect(carried([text(old), spaced(old), text(changed)])).toEqual(wanted)
        expect(carried([text(old), text(changed), spaced(old)])).toEqual(wanted)
      }),
      { ...runs, examples: [example] },
    )
  })

  test('are asked each way round, or right, and still', () => {
    const example = [['tar'], [[1]], [{ id: 'lamp', worth: 1 }, [1]]] as [Item[], Item[], Item[]]
    fc.assert(
      fc.property(list, list, list, (old, fresh, mine) => {
        const result = carry([old, fresh, mine])
        expect(carry([old, mine, fresh]).isAsked).toBe(result.isAsked)
        if (result.isAsked) return
        expect(carry([old, fresh, result.hold]).hold).toEqual(result.hold)
        expectCounts([old, fresh, mine], result)
      }),
      { ...runs, examples: [example] },
    )
  })
})
