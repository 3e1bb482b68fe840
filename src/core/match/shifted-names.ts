import { gather, timesOf } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'
import type { Value, Values } from '../likeness/value.ts'
import { weightOf } from '../likeness/weight.ts'
import type { Item } from './item.ts'
import type { Changed, Links } from './links.ts'
import type { TellApart } from './tell-apart.ts'

/** So much must two entries hold to be known again under another name. */
const LEAST_HELD = 2

/** Entries by their class, and the class whose entry holds now what they held; undefined where none does. */
export type Shifted = ReadonlyMap<number, number | undefined>

/**
 * Entries whose names only number them (`Wave3`), where a side put one between them and gave the rest the next
 * names: what stands under such a name may be another entry than before. Only those that both changed,
 * differently: of any other it makes no difference.
 */
export function shiftedNames(told: TellApart, links: Links, values: Values): Shifted {
  const shifted = new Map<number, number | undefined>()
  for (const side of [NEW, MINE] as const)
    for (const ranks of numberedIn(told).values()) {
      const now = shiftedIn(told, links, values, side, ranks)
      for (const [cls, to] of now) if (isChangedByBoth(told, links, cls)) shifted.set(cls, to)
    }
  return shifted
}

/** The entries of old that are told by a name that ends in a number, by what stands before it. */
function numberedIn(told: TellApart): Map<string, number[]> {
  const found = new Map<string, number[]>()
  for (const [at, item] of told.items[OLD].entries()) {
    const stem = stemOf(told, OLD, at, item)
    if (stem !== undefined) gather(found, stem, at)
  }
  return found
}

function stemOf(told: TellApart, side: Side, at: number, { kind, name }: Item): string | undefined {
  if (!NAMED.has(kind) || told.means(told.groups[side][at] ?? '').by !== 'name') return undefined
  const [, stem] = /^(.*?)[0-9]+$/.exec(name) ?? []
  return stem === undefined ? undefined : `${kind}:${stem}`
}

const NAMED: ReadonlySet<Kind> = new Set([Kind.Section, Kind.Member, Kind.Element])

/** Of old's entries those that a side has otherwise under their name, where most stand under the name of another. */
function shiftedIn(
  told: TellApart,
  links: Links,
  values: Values,
  side: Changed,
  ranks: readonly number[],
): Shifted {
  const [first] = ranks
  const stem = first === undefined ? undefined : stemOf(told, OLD, first, itemOf(told, OLD, first))
  const isKept = (a: Side, at: number, b: Side): boolean => {
    const partner = links.partner(a, at, b)
    return partner >= 0 && itemOf(told, a, at).isSame(itemOf(told, b, partner))
  }
  const old = ranks.filter((at) => !isKept(OLD, at, side))
  const changed = old.filter((at) => links.partner(OLD, at, side) >= 0)
  if (changed.length === 0) return new Map()
  const put = [...told.items[side].keys()].filter(
    (at) => stemOf(told, side, at, itemOf(told, side, at)) === stem && !isKept(side, at, OLD),
  )
  const onlyOnes = (of: Side, all: readonly number[]): Map<Value, number> => {
    const held = all.map((at) => contentOf(itemOf(told, of, at), values))
    const times = timesOf(held)
    return new Map(
      held.flatMap((value, i): [Value, number][] =>
        times.get(value) === 1 && weightOf(value) >= LEAST_HELD ? [[value, all[i] ?? -1]] : [],
      ),
    )
  }
  const inSide = onlyOnes(side, put)
  const now = new Map<number, number>()
  for (const [value, at] of onlyOnes(OLD, old)) {
    const to = inSide.get(value)
    if (to !== undefined) now.set(at, to)
  }
  const moved = changed.filter((at) => {
    const [to, named] = [now.get(at), links.partner(OLD, at, side)]
    if (to === undefined) return false
    const isHandedOn = links.partner(side, to, OLD) >= 0
    return isHandedOn || sharesLittle(itemOf(told, OLD, at), itemOf(told, side, named))
  })
  if (moved.length === 0 || moved.length * 2 < changed.length) return new Map()
  return new Map(
    changed.map((at) => {
      const to = now.get(at)
      return [links.classOf(OLD, at), to === undefined ? undefined : links.classOf(side, to)]
    }),
  )
}

function isChangedByBoth(told: TellApart, links: Links, cls: number): boolean {
  const [old, fresh, mine] = SIDES.map((side) => told.items[side][links.member(side, cls)])
  if (old === undefined || fresh === undefined || mine === undefined) return false
  return !old.isSame(fresh) && !old.isSame(mine) && !fresh.isSame(mine)
}

function itemOf(told: TellApart, side: Side, at: number): Item {
  const item = told.items[side][at]
  if (item === undefined) throw new Error(`there is no item ${at}`)
  return item
}

/** Whether half at most of what an entry holds stands in another: a copy beside an edited entry shares more with that. */
function sharesLittle(one: Item, other: Item): boolean {
  const parts = (item: Item): readonly Value[] =>
    item.kind === Kind.Member ? (item.value.parts[0]?.parts ?? []) : item.value.parts
  const there = new Set(parts(other))
  const all = parts(one)
  return all.filter((part) => there.has(part)).length * 2 <= all.length
}

/** What an entry holds under its name. */
function contentOf({ value }: Item, values: Values): Value {
  const [held] = value.parts
  if (value.kind === Kind.Member && held !== undefined) return held
  return values.holding({ kind: value.kind, name: '', text: value.text }, value.parts)
}
