import { gather } from '../../document/gather.ts'
import { OLD, SIDES } from '../../document/sides.ts'
import { joinKey, keyPattern, keySegments, parentOf } from '../../keys/key.ts'
import { numberOf } from '../values.ts'
import { answeredOnce } from './answered-once.ts'
import type { TogetherInputs } from './inputs.ts'
import { isRange, rangeStems } from './pair-names.ts'
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
  const entries = new Map<string, Made[]>()
  const isLearnedRule = answeredOnce(
    (low: MadeKey, high: MadeKey) => [low, high].map(({ key }) => keyPattern(key)).join('\0'),
    (low, high) => isLearned(low, high, inputs),
  )
  for (const each of made) {
    if (each.kind !== 'changed' || numberOf(each.result ?? undefined) === undefined) continue
    const segments = keySegments(each.key)
    const name = segments.at(-1)?.name ?? ''
    if (name === '') continue
    const numbers = { old: 0, new: 0, mine: 0, result: 0 }
    for (const side of VALUES) numbers[side] = numberOf(each[side] ?? undefined) ?? NaN
    gather(entries, parentOf(each.key), { made: each, name, numbers })
  }
  return [...entries.values()].flatMap((ones) =>
    pairsIn(ones).flatMap(([one, other]) => {
      const [low, high] = crosses(one, other) ? [one, other] : [other, one]
      if (!crosses(low, high)) return []
      const isRule = isRange(low.name, high.name) || isLearnedRule(low.made, high.made)
      return isRule ? [{ low: low.made, high: high.made }] : []
    }),
  )
}

/** Of an entry with more changed numbers only those are paired that are a range by their names: no order is learned of so many. */
const MOST_PAIRED = 200

/** The numbers of one entry that mine changed, each with those that vanilla changed. */
function pairsIn(ones: readonly Made[]): [mine: Made, vanilla: Made][] {
  const [mine, vanilla] = [ones.filter(isMines), ones.filter((each) => !isMines(each))]
  if (ones.length <= MOST_PAIRED)
    return mine.flatMap((one) => vanilla.map((other): [Made, Made] => [one, other]))
  const byStem = new Map<string, Made[]>()
  for (const other of vanilla)
    for (const stem of rangeStems(other.name)) gather(byStem, stem, other)
  return mine.flatMap((one) => {
    const alike = rangeStems(one.name).flatMap((stem) => byStem.get(stem) ?? [])
    return [...new Set(alike)].map((other): [Made, Made] => [one, other])
  })
}

const VALUES = ['old', 'new', 'mine', 'result'] as const

/** A number that one side made, and what it is in each document; NaN where it is no number there. */
interface Made {
  made: MadeKey
  name: string
  numbers: Record<(typeof VALUES)[number], number>
}

function isMines({ made }: Made): boolean {
  return made.maker === 'mine'
}

/** Whether one is at most the other in each input, and above it in the result. */
function crosses({ numbers: low }: Made, { numbers: high }: Made): boolean {
  return (
    low.old <= high.old && low.new <= high.new && low.mine <= high.mine && low.result > high.result
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
