import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Values } from '../likeness/value.ts'
import type { Item } from './item.ts'
import { contentOf, valuesIn } from './item.ts'
import type { Changed, Links } from './links.ts'
import { otherSide } from './links.ts'
import type { Shifted } from './shifted-names.ts'
import { isKept, NAMED } from './shifted-names.ts'
import type { TellApart } from './tell-apart.ts'

/** So many values that only one number has must stand under another number now: one may do so by chance. */
const LEAST_KNOWN = 2

/** What keys of one number hold, by what stands behind the number in them; each as the rank of its item. */
type Numbered = Map<string, number>
/** The numbers that stand behind the same beginning of a key. */
type Numbers = Map<string, Numbered>

/**
 * Keys whose numbers tell what they are of (`Boat2Crew`, `Boat2Masts`, the section `[Boat2.Hold]`), where a side put one
 * between and gave the rest the next numbers: what stands under such a key is of another boat than before. Only those
 * that the other side changed, whether this one changed what stands there or not: the same value may be another boat's.
 */
export function shiftedNumbers(told: TellApart, links: Links): Shifted {
  const shifted = new Map<number, number | undefined>()
  const all = triple((side) => numbersIn(told, side))
  for (const [stem, old] of all[OLD]) {
    const now = triple((side) => all[side].get(stem) ?? NO_NUMBERS)
    const moved = {
      [NEW]: movedIn(told, links, NEW, [old, now[NEW]]),
      [MINE]: movedIn(told, links, MINE, [old, now[MINE]]),
    }
    for (const side of [NEW, MINE] as const)
      for (const [number, to] of moved[side]) {
        const other = otherSide(side)
        const there = to === undefined ? undefined : now[side].get(to)
        const keys = classesOf(links, other, old.get(number), now[other].get(number))
        for (const [rest, cls] of keys) {
          const isLost = there?.has(rest) === true && !moved[other].has(number)
          if (!isEdited(told, links, side, cls) && !(isLost && links.isInOldAlone(cls))) continue
          // of a key that was put in, what else has its number tells where that is now
          const [first] = there?.values() ?? []
          const at = there?.get(rest) ?? first
          shifted.set(cls, at === undefined ? undefined : links.classOf(side, at))
        }
      }
  }
  return shifted
}

const NO_NUMBERS: Numbers = new Map()

/** Whether a key holds one value: what holds several is an entry, and told by these. */
function isSetting(item: Item): boolean {
  const { kind } = item
  if (kind === Kind.Member) return item.value.parts[0]?.kind === Kind.Scalar
  return (
    kind === Kind.Property || kind === Kind.Attribute || (kind === Kind.Element && item.isPlain)
  )
}

function numbersIn(told: TellApart, side: Side): Map<string, Numbers> {
  const found = new Map<string, Numbers>()
  for (const [at, { kind, name }] of told.items[side].entries()) {
    if (!told.isByName(side, at)) continue
    for (const { 0: number, index } of name.matchAll(/[0-9]+/g)) {
      const stem = `${kind}:${name.slice(0, index)}`
      const numbers: Numbers = found.get(stem) ?? new Map<string, Numbered>()
      const numbered: Numbered = numbers.get(number) ?? new Map<string, number>()
      numbered.set(name.slice(index + number.length), at)
      found.set(stem, numbers.set(number, numbered))
    }
  }
  return found
}

/**
 * Numbers of old under which something else stands in a side, and the number under which most of what they held
 * stands there; undefined where it stands under none.
 */
function movedIn(
  told: TellApart,
  links: Links,
  side: Changed,
  [old, now]: readonly [Numbers, Numbers],
): Map<string, string | undefined> {
  const inSide = ownersIn(told, now, side, (at) => isKept(told, links, [side, at], OLD))
  const inOld = ownersIn(told, old, OLD, (at) => isKept(told, links, [OLD, at], side))
  const votes = new Map<string, Map<string, number>>()
  for (const [held, one] of inOld) {
    const other = inSide.get(held)
    if (one === undefined || other === undefined) continue
    const ofOne = votes.get(one) ?? new Map<string, number>()
    votes.set(one, ofOne.set(other, (ofOne.get(other) ?? 0) + 1))
  }
  const kept = (number: string): number => votes.get(number)?.get(number) ?? 0
  const moved = new Map<string, string | undefined>()
  for (const [one, ofOne] of votes)
    for (const [other, times] of ofOne) {
      if (one === other || times < LEAST_KNOWN || times <= kept(one)) continue
      moved.set(one, other)
      // what stood there before stands elsewhere, or went
      if (kept(other) < times && !moved.has(other)) moved.set(other, undefined)
    }
  return moved
}

/** The number that alone holds a value under what stands behind it; undefined where several do. */
function ownersIn(
  told: TellApart,
  numbers: Numbers,
  side: Side,
  isAsItWas: (at: number) => boolean,
): Map<string, string | undefined> {
  const owners = new Map<string, string | undefined>()
  for (const [number, numbered] of numbers)
    for (const [rest, at] of numbered) {
      const item = surely(told.items[side][at])
      if (!isSetting(item) && (rest === '' || isAsItWas(at))) continue
      for (const id of tellingIn(item, numbered, told.values)) {
        const held = `${id} ${rest}`
        owners.set(held, owners.has(held) ? undefined : number)
      }
    }
  return owners
}

/** The values that an entry may be known by again: of a setting its own, if its number has others beside it. */
function tellingIn(item: Item, { size }: Numbered, values: Values): readonly number[] {
  // one alone could be known again by chance only, and most numbered settings are that
  if (isSetting(item)) return size < LEAST_KNOWN ? [] : [contentOf(item, values).id]
  return NAMED.has(item.kind) ? valuesIn(item).map(({ id }) => id) : []
}

/** The classes of keys of one number in old, and in a side. */
function classesOf(
  links: Links,
  side: Changed,
  old: Numbered = new Map<string, number>(),
  own: Numbered = new Map<string, number>(),
): Map<string, number> {
  const classes = new Map<string, number>()
  for (const [rest, at] of own) classes.set(rest, links.classOf(side, at))
  for (const [rest, at] of old) classes.set(rest, links.classOf(OLD, at))
  return classes
}

/** Whether the other side than this changed a key, put it in or dropped it, and this one has it otherwise than that. */
function isEdited(told: TellApart, links: Links, side: Changed, cls: number): boolean {
  const itemIn = (of: Side): Item | undefined => told.items[of][links.member(of, cls)]
  const [old, here, there] = [itemIn(OLD), itemIn(side), itemIn(otherSide(side))]
  const isAs = (one: Item | undefined): boolean =>
    one === undefined || there === undefined ? one === there : one.isSame(there)
  return !isAs(old) && !isAs(here)
}
