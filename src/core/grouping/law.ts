/** What a number of changed numbers have in common. */
export type Law =
  /** All have the same old and the same new value. */
  | { by: 'same' }
  /** New is old times a fraction, exactly. */
  | { by: 'times'; numerator: string; denominator: string }
  /** New is old plus a decimal, exactly. */
  | { by: 'plus'; plus: string }
  /** New is so many hundredths of old, rounded to a whole number. */
  | { by: 'percent'; percent: number }

/** A value before and after, as text. */
export interface ValueChange {
  old: string | null
  new: string | null
}

/** Changes that follow one law, or none. */
export interface LawRow<T extends ValueChange> {
  law: Law | undefined
  changes: T[]
}

/** A law of values that differ must hold for so many of the changes, and such a share of them. */
const LEAST_LAWFUL = 3
const LEAST_LAWFUL_SHARE = 0.2
/** The same for changes from one value to one other. */
const LEAST_SAME = 2
const LEAST_SAME_SHARE = 0.1

const MOST_PERCENT = 1000
/** Of smaller numbers nearly every percentage holds, once it is rounded. */
const LEAST_FOR_PERCENT = 10

/**
 * Divides changes of one pattern into those that follow a law, the law with most of them first, and those
 * that follow none. Each change is in one row; the order in which they come does not matter.
 */
export function divideByLaw<T extends ValueChange>(changes: readonly T[]): LawRow<T>[] {
  const rows: LawRow<T>[] = []
  let rest: Lawful<T>[] = changes.map((change) => ({
    change,
    laws: [sameLaw(change), ...lawsOf(change)],
  }))
  while (rest.length > 0) {
    const best = bestLaw(rest, changes.length)
    if (best === undefined) break
    const follows = ({ laws }: Lawful<T>): boolean => laws.some(({ text }) => text === best.text)
    rows.push({ law: best.law, changes: rest.filter(follows).map(({ change }) => change) })
    rest = rest.filter((each) => !follows(each))
  }
  if (rest.length > 0) rows.push({ law: undefined, changes: rest.map(({ change }) => change) })
  return rows
}

/** A change with the laws that it follows. */
interface Lawful<T extends ValueChange> {
  change: T
  laws: readonly OneLaw[]
}

/** A law with what tells it apart from others, and its rank among them: the plainest first. */
interface OneLaw {
  law: Law
  text: string
  rank: number
}

/** A law, how many changes follow it, and so many of their old values as matter. */
interface Candidate extends OneLaw {
  count: number
  olds: Set<string | null>
}

function bestLaw(rest: readonly Lawful<ValueChange>[], total: number): Candidate | undefined {
  const found = new Map<string, Candidate>()
  for (const { change, laws } of rest) {
    for (const each of laws) {
      const known = found.get(each.text) ?? { ...each, count: 0, olds: new Set() }
      known.count++
      if (known.olds.size < LEAST_LAWFUL) known.olds.add(change.old)
      found.set(each.text, known)
    }
  }
  const candidates = [...found.values()].filter((each) => isEnough(each, total))
  return candidates.sort(
    (a, b) => b.count - a.count || a.rank - b.rank || (a.text < b.text ? -1 : 1),
  )[0]
}

function isEnough({ rank, count, olds }: Candidate, total: number): boolean {
  if (rank === 0) return count >= Math.max(LEAST_SAME, total * LEAST_SAME_SHARE)
  if (olds.size < (rank === 3 ? LEAST_LAWFUL : 2)) return false
  return count >= Math.max(LEAST_LAWFUL, total * LEAST_LAWFUL_SHARE)
}

function sameLaw({ old, new: fresh }: ValueChange): OneLaw {
  const text = `same ${old === null ? '-' : `${old.length}:${old}`} ${fresh ?? ''}`
  return { law: { by: 'same' }, text, rank: 0 }
}

/** The laws that one change of a number follows. */
function lawsOf({ old, new: fresh }: ValueChange): OneLaw[] {
  const from = decimalOf(old)
  const to = decimalOf(fresh)
  if (from === undefined || to === undefined) return []
  const laws: OneLaw[] = []
  const scale = Math.max(from.scale, to.scale)
  const a = from.digits * 10n ** BigInt(scale - from.scale)
  const b = to.digits * 10n ** BigInt(scale - to.scale)
  if (a !== 0n && b !== 0n) {
    const [numerator, denominator] = reduced(b, a)
    const law = { by: 'times', numerator: `${numerator}`, denominator: `${denominator}` } as const
    laws.push({ text: `times ${numerator}/${denominator}`, law, rank: 1 })
  }
  const plus = decimalText(b - a, scale)
  laws.push({ text: `plus ${plus}`, law: { by: 'plus', plus }, rank: 2 })
  for (const percent of percentsOf(from, to))
    laws.push({ text: `percent ${percent}`, law: { by: 'percent', percent }, rank: 3 })
  return laws
}

interface Decimal {
  digits: bigint
  scale: number
}

/** A plain decimal number; undefined for all else, and for more digits than a game's number has. */
function decimalOf(value: string | null): Decimal | undefined {
  const parts = /^([-+]?[0-9]{1,18})(?:\.([0-9]{1,12}))?$/.exec(value ?? '')
  if (parts === null) return undefined
  const [, whole = '', after = ''] = parts
  return { digits: BigInt(whole.replace('+', '') + after), scale: after.length }
}

function decimalText(digits: bigint, scale: number): string {
  const sign = digits < 0n ? '-' : ''
  const text = (digits < 0n ? -digits : digits).toString().padStart(scale + 1, '0')
  const whole = text.slice(0, text.length - scale)
  const after = text.slice(text.length - scale).replace(/0+$/, '')
  return `${sign}${whole}${after === '' ? '' : `.${after}`}`
}

function reduced(numerator: bigint, denominator: bigint): [bigint, bigint] {
  let [a, b] = [
    numerator < 0n ? -numerator : numerator,
    denominator < 0n ? -denominator : denominator,
  ]
  while (b !== 0n) [a, b] = [b, a % b]
  const sign = denominator < 0n ? -1n : 1n
  return [(sign * numerator) / a, (sign * denominator) / a]
}

/** The whole percentages that make `to` of `from` when the result is rounded to a whole number. */
function percentsOf(from: Decimal, to: Decimal): number[] {
  if (from.scale > 0 || to.scale > 0) return []
  const [old, fresh] = [Number(from.digits), Number(to.digits)]
  if (old < LEAST_FOR_PERCENT || fresh <= 0 || old === fresh) return []
  const percents: number[] = []
  const first = Math.max(1, Math.floor(((fresh - 1) * 100) / old))
  for (let percent = first; percent <= MOST_PERCENT; percent++) {
    const made = Math.round((old * percent) / 100)
    if (made > fresh) break
    if (made === fresh && percent !== 100) percents.push(percent)
  }
  return percents
}
