import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Pair } from '../likeness/only-ones.ts'
import type { Value, Values } from '../likeness/value.ts'
import { weightOf } from '../likeness/weight.ts'
import type { Item } from './item.ts'
import { contentOf, valuesIn } from './item.ts'
import type { Changed, Gap, Links } from './links.ts'
import { isKept, NAMED } from './shifted-names.ts'
import type { TellApart } from './tell-apart.ts'

/** So much that only one number has must stand under another number now: a number alone may do so by chance. */
const LEAST_KNOWN = 2
/** One key of a number could be known again by chance only, and most numbered settings are that. */
const LEAST_KEYS = 2

/** What keys of one number hold, by what else is in them; each as the rank of its item. */
export type Numbered = Map<string, number>
/** The numbers that stand in keys behind the same beginning, or before the same end. */
export type Numbers = Map<string, Numbered>

/** Numbers, and the number under which what they stood for stands now; undefined where it stands under none. */
export type Moved = Map<string, string | undefined>

/** Of old's numbers those that a side gave to something else: by the values that they alone hold, or by their order. */
export function movedNumbers(
  told: TellApart,
  links: Links,
  side: Changed,
  numbers: readonly [old: Numbers, now: Numbers],
): Moved {
  return new Map([
    ...movedByValues(told, links, side, numbers),
    ...movedInOrder(told, side, numbers),
  ])
}

/**
 * Numbers of old under which something else stands in a side, and the number under which most of what they held
 * stands there; undefined where it stands under none.
 */
function movedByValues(
  told: TellApart,
  links: Links,
  side: Changed,
  [old, now]: readonly [Numbers, Numbers],
): Moved {
  const inSide = ownersIn(told, now, side, (at) => isKept(told, links, [side, at], OLD))
  const inOld = ownersIn(told, old, OLD, (at) => isKept(told, links, [OLD, at], side))
  const votes = new Map<string, Map<string, number>>()
  for (const [held, one] of inOld) {
    const other = inSide.get(held)
    if (one === undefined || other === undefined) continue
    const ofOne = votes.get(one.number) ?? new Map<string, number>()
    votes.set(one.number, ofOne.set(other.number, (ofOne.get(other.number) ?? 0) + one.weight))
  }
  const kept = (number: string): number => votes.get(number)?.get(number) ?? 0
  const moved: Moved = new Map<string, string | undefined>()
  for (const [one, ofOne] of votes)
    for (const [other, weight] of ofOne) {
      if (one === other || weight < LEAST_KNOWN || weight <= kept(one)) continue
      moved.set(one, other)
      // what stood there before stands elsewhere, or went
      if (kept(other) < weight && !moved.has(other)) moved.set(other, undefined)
    }
  return moved
}

/** Whether a key holds one value: what holds several is an entry, and told by these. */
export function isSetting(item: Item): boolean {
  const { kind } = item
  if (kind === Kind.Member) return item.value.parts[0]?.kind === Kind.Scalar
  return (
    kind === Kind.Property || kind === Kind.Attribute || (kind === Kind.Element && item.isPlain)
  )
}

/** The number that alone holds a value under what else is in its key, and how much that is; undefined where several do. */
function ownersIn(
  told: TellApart,
  numbers: Numbers,
  side: Side,
  isAsItWas: (at: number) => boolean,
): Map<string, { number: string; weight: number } | undefined> {
  const owners = new Map<string, { number: string; weight: number } | undefined>()
  for (const [number, numbered] of numbers)
    for (const [rest, at] of numbered) {
      const item = surely(told.items[side][at])
      if (!isSetting(item) && (rest === '' || isAsItWas(at))) continue
      for (const value of tellingIn(item, numbered, told.values)) {
        const held = `${value.id} ${rest}`
        owners.set(held, owners.has(held) ? undefined : { number, weight: weightOf(value) })
      }
    }
  return owners
}

/** The values that an entry may be known by again: of a setting its own, if its number has others beside it. */
function tellingIn(item: Item, { size }: Numbered, values: Values): readonly Value[] {
  if (isSetting(item)) return size < LEAST_KEYS ? [] : [contentOf(item, values)]
  return NAMED.has(item.kind) ? valuesIn(item) : []
}

/**
 * The same where the numbers, read in their order, changed in no more places than by themselves: what holds the same
 * is one, whatever its number is. Only what both documents have of a number counts: all may have got one value more.
 */
function movedInOrder(
  told: TellApart,
  side: Changed,
  [old, now]: readonly [Numbers, Numbers],
): Moved {
  const [inOld, inSide] = [heldIn(told, OLD, old), heldIn(told, side, now)]
  const [ones, others] = [inOrder(inOld, namesIn(inSide)), inOrder(inSide, namesIn(inOld))]
  const textsOf = (all: readonly Ordered[]): string[] => all.map(({ text }) => text)
  const aligned = told.aligner.align(textsOf(ones), textsOf(others))
  const byNumber = new Map(others.map(({ number, text }) => [number, text]))
  const changed = ones.filter(({ number, text }) => byNumber.get(number) !== text)
  const added = others.filter(({ number }) => !old.has(number))
  const gaps = gapsOf(aligned, ones.length, others.length)
  const places = gaps.reduce((sum, { old, put }) => sum + Math.max(old.length, put.length), 0)
  if (places > changed.length + added.length) return new Map()
  // one value may come back by chance
  const isKnown = aligned.some(([i, j]) => {
    const { number, size } = surely(ones[i])
    return size >= LEAST_KEYS && number !== surely(others[j]).number
  })
  if (!isKnown) return new Map()
  const replaced = gaps.filter(({ old, put }) => old.length === put.length)
  const pairs = [...aligned, ...replaced.flatMap(({ old, put }) => zipped(old, put))]
  const became = new Map(pairs.map(([i, j]) => [surely(ones[i]).number, surely(others[j]).number]))
  const before = new Set(textsOf(ones))
  // what another number held may have come from there, also where something stands there again
  const moved = changed.filter(
    ({ number }) => became.get(number) !== number || before.has(byNumber.get(number) ?? ''),
  )
  const elsewhere = (number: string): string | undefined => {
    const now = became.get(number)
    return now === number ? undefined : now
  }
  return new Map(moved.map(({ number }) => [number, elsewhere(number)]))
}

/** What stands between what is aligned, in both sequences. */
function gapsOf(aligned: readonly Pair[], length: number, other: number): Gap[] {
  const gaps: Gap[] = []
  let [i, j] = [0, 0]
  for (const [x, y] of [...aligned, [length, other] as const]) {
    gaps.push({ old: ranks(i, x), put: ranks(j, y) })
    ;[i, j] = [x + 1, y + 1]
  }
  return gaps
}

function ranks(from: number, to: number): number[] {
  return Array.from({ length: to - from }, (_, at) => from + at)
}

function zipped(a: readonly number[], b: readonly number[]): Pair[] {
  return a.map((each, at) => [each, surely(b[at])])
}

/** What a number holds: each value with the name that it has there. */
type Held = readonly { name: string; value: number }[]

/** What each number holds, in their order. */
function heldIn(told: TellApart, side: Side, numbers: Numbers): [number: string, held: Held][] {
  return [...numbers]
    .sort(([a], [b]) => +a - +b)
    .map(([number, numbered]) => [
      number,
      [...numbered].flatMap(([rest, at]) => {
        const item = surely(told.items[side][at])
        if (isSetting(item)) return [{ name: rest, value: contentOf(item, told.values).id }]
        return valuesIn(item).map(({ name, id }) => ({ name: `${rest} ${name}`, value: id }))
      }),
    ])
}

function namesIn(all: readonly [number: string, held: Held][]): Set<string> {
  return new Set(all.flatMap(([, held]) => held.map(({ name }) => name)))
}

/** What a number holds of what the other document has, too, as one text, and how many values that is. */
interface Ordered {
  number: string
  text: string
  size: number
}

function inOrder(
  all: readonly [number: string, held: Held][],
  names: ReadonlySet<string>,
): Ordered[] {
  return all.map(([number, held]) => {
    const counted = held.filter(({ name }) => names.has(name))
    const texts = counted.map(({ name, value }) => `${name} ${value}`)
    return { number, text: texts.sort().join(), size: counted.length }
  })
}
