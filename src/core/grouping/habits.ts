import { asNumber } from '../document/as-number.ts'
import { gather } from '../document/gather.ts'
import type { FileReport } from '../report/report.ts'
import { patternsOfKeys } from './pattern.ts'

/** One law that most of an operator's edits of one key pattern follow: a multiple of old, or a difference to old. */
export interface Habit {
  pattern: string
  times?: number | undefined
  plus?: number | undefined
  /** In how many edits it holds, of how many. */
  holds: number
  of: number
}

/** So many edits of one pattern are needed, ... */
const LEAST_EDITS = 5
/** ... and in such a share of them the law holds. */
const LEAST_SHARE = 0.8

/** The habits that the operator's edits in files show. */
export function habitsIn(files: readonly FileReport[]): Habit[] {
  const byPattern = new Map<string, [old: number, mine: number][]>()
  for (const { changes, conflicts } of files) {
    const edits = [...changes.filter(({ side }) => side === 'mine'), ...conflicts]
    const patterns = patternsOfKeys(edits.map(({ key }) => key))
    for (const [i, { old, mine }] of edits.entries()) {
      const [from, to] = [asNumber(old), asNumber(mine)]
      if (from !== undefined && to !== undefined) gather(byPattern, patterns[i] ?? '', [from, to])
    }
  }
  return [...byPattern].flatMap(([pattern, values]): Habit[] => {
    if (values.length < LEAST_EDITS) return []
    const of = values.length
    const isEnough = ([, holds]: readonly [number, number]): boolean => holds >= of * LEAST_SHARE
    const times = commonest(values.flatMap(([old, mine]) => (old === 0 ? [] : [mine / old])))
    if (times !== undefined && isEnough(times))
      return [{ pattern, times: times[0], holds: times[1], of }]
    const plus = commonest(values.map(([old, mine]) => mine - old))
    return plus !== undefined && isEnough(plus)
      ? [{ pattern, plus: plus[0], holds: plus[1], of }]
      : []
  })
}

/** What a habit makes of a value of vanilla's; undefined where that is no number. */
export function byHabit({ times, plus }: Habit, vanilla: string | null): string | undefined {
  const value = asNumber(vanilla)
  if (value === undefined) return undefined
  return String(rounded(times === undefined ? value + (plus ?? 0) : value * times))
}

/** The number that occurs most, and how often. */
function commonest(numbers: readonly number[]): readonly [number, number] | undefined {
  const times = new Map<number, number>()
  for (const number of numbers.map(rounded)) times.set(number, (times.get(number) ?? 0) + 1)
  return [...times].sort((a, b) => b[1] - a[1])[0]
}

/** Without what binary fractions leave behind the sixth place. */
function rounded(number: number): number {
  return Math.round(number * 1e6) / 1e6
}
