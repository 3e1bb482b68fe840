import { gather } from '../../document/gather.ts'
import { OLD, SIDES } from '../../document/sides.ts'
import { joinKey, keyPattern, keySegments, parentOf } from '../../keys/key.ts'
import { numberOf } from '../values.ts'
import type { TogetherInputs } from './inputs.ts'
import { isRange } from './pair-names.ts'
import type { MadeKey } from './rows.ts'

/** A low end of a range that is above its high end in the result, and in none of the inputs. */
export interface Crossed {
  low: MadeKey
  high: MadeKey
}

/** Of all entries an order of two numbers holds by chance less often than this, where it is taken for a rule. */
const BY_CHANCE = 0.001

/**
 * The pairs of numbers of one entry, one changed by vanilla and the other by mine, of which the first is at most the second in all
 * inputs and no longer in the result: by their names a range, or ordered so in all entries alike.
 */
export function crossedIn(made: readonly MadeKey[], inputs: TogetherInputs): Crossed[] {
  const entries = new Map<string, { made: MadeKey; name: string }[]>()
  for (const each of made) {
    if (each.kind !== 'changed' || numberOf(each.result ?? undefined) === undefined) continue
    const segments = keySegments(each.key)
    const name = segments.at(-1)?.name ?? ''
    if (name === '') continue
    gather(entries, parentOf(each.key), { made: each, name })
  }
  return [...entries.values()].flatMap((ones) => {
    const [mine, vanilla] = [ones.filter(isMines), ones.filter((each) => !isMines(each))]
    return mine.flatMap((one) =>
      vanilla.flatMap((other) => {
        const pair = [
          [one, other],
          [other, one],
        ].find(
          ([low, high]) => low !== undefined && high !== undefined && crosses(low.made, high.made),
        )
        const [low, high] = pair ?? []
        if (low === undefined || high === undefined) return []
        const isRule = isRange(low.name, high.name) || isLearned(low.made, high.made, inputs)
        return isRule ? [{ low: low.made, high: high.made }] : []
      }),
    )
  })
}

function isMines({ made }: { made: MadeKey }): boolean {
  return made.maker === 'mine'
}

/** Whether one is at most the other in each input, and above it in the result. */
function crosses(low: MadeKey, high: MadeKey): boolean {
  const isAtMost = (side: 'old' | 'new' | 'mine' | 'result'): boolean | undefined => {
    const [a, b] = [numberOf(low[side] ?? undefined), numberOf(high[side] ?? undefined)]
    return a === undefined || b === undefined ? undefined : a <= b
  }
  return (
    isAtMost('old') === true &&
    isAtMost('new') === true &&
    isAtMost('mine') === true &&
    isAtMost('result') === false
  )
}

/**
 * Whether the order of two numbers is a rule of all entries alike: it holds in each of them in all inputs, and were the numbers dealt
 * out among the entries of old anew, it would hold in all of them less than once in a thousand times.
 */
function isLearned(low: MadeKey, high: MadeKey, inputs: TogetherInputs): boolean {
  const [lowName, highName] = [low.key, high.key].map((key) => key.slice(parentOf(key).length))
  const entry = keyPattern(parentOf(low.key))
  const nameOf = (name = ''): string => name.replace(/^\//, '')
  const pairs = SIDES.map((side) => {
    const values = (name: string): Map<string, number | undefined> =>
      new Map(
        inputs
          .at(side, low.path, keyPattern(joinKey(entry, name)))
          .map(({ key, value }) => [parentOf(key), numberOf(value)]),
      )
    const [lows, highs] = [values(nameOf(lowName)), values(nameOf(highName))]
    return [...lows].flatMap(([key, a]) => {
      const b = highs.get(key)
      return a === undefined || b === undefined ? [] : [[a, b] as const]
    })
  })
  if (!pairs.every((each) => each.every(([a, b]) => a <= b))) return false
  const distinct = new Map(pairs[OLD]?.map((pair) => [pair.join(), pair]))
  const highs = [...distinct.values()].map(([, b]) => b)
  const chance = [...distinct.values()].reduce(
    (product, [a]) => (product * highs.filter((b) => a <= b).length) / highs.length,
    1,
  )
  return distinct.size > 0 && chance < BY_CHANCE
}
