import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { numbersInName } from '../identity/numbers.ts'
import type { Changed, Links } from './links.ts'
import { otherSide } from './links.ts'
import type { Moved, Numbered, Numbers } from './moved-numbers.ts'
import { isSetting, movedNumbers } from './moved-numbers.ts'
import type { Shifted } from './shifted-names.ts'
import type { TellApart } from './tell-apart.ts'

/**
 * Keys whose numbers tell what they are of (`Boat2Crew`, `Boat2Masts`, the section `[Boat2.Hold]`; also `Crew2`,
 * `Masts2`), where a side put one between and gave the rest the next numbers: what stands under such a key is of
 * another boat than before. Only those that the other side changed, whether this one changed what stands there or
 * not: the same value may be another boat's.
 *
 * @returns what is asked, and what both changed alike by chance, so that it can only be told
 */
export function shiftedNumbers(told: TellApart, links: Links): { asked: Shifted; alike: Shifted } {
  const asked = new Map<number, number | undefined>()
  const alike = new Map<number, number | undefined>()
  const all = triple((side) => numbersIn(told, side))
  for (const [stem, old] of all[OLD]) {
    const now = triple((side) => all[side].get(stem) ?? NO_NUMBERS)
    const moved = {
      [NEW]: movedNumbers(told, links, NEW, [old, now[NEW]]),
      [MINE]: movedNumbers(told, links, MINE, [old, now[MINE]]),
    }
    const isByBoth = areOtherwise(moved[NEW], moved[MINE])
    for (const side of [NEW, MINE] as const)
      for (const [number, to] of moved[side]) {
        const other = otherSide(side)
        const there = to === undefined ? undefined : now[side].get(to)
        const keys = classesOf(links, other, old.get(number), now[other].get(number))
        for (const [rest, cls] of keys) {
          const isLost = there?.has(rest) === true && !moved[other].has(number)
          const isOpen = isByBoth
            ? !isSameIn(told, links, cls, [NEW, MINE])
            : isEdited(told, links, side, cls) || (isLost && links.isInOldAlone(cls))
          const isAlike =
            !moved[other].has(number) &&
            isSameIn(told, links, cls, [NEW, MINE]) &&
            !isSameIn(told, links, cls, [OLD, MINE])
          if (!isOpen && !isAlike) continue
          // of a key that was put in, what else has its number tells where that is now
          const [first] = there?.values() ?? []
          const at = there?.get(rest) ?? first
          const into = isOpen ? asked : alike
          into.set(cls, at === undefined ? undefined : links.classOf(side, at))
        }
      }
  }
  return { asked, alike }
}

const NO_NUMBERS: Numbers = new Map()

function numbersIn(told: TellApart, side: Side): Map<string, Numbers> {
  const found = new Map<string, Numbers>()
  for (const [at, item] of told.items[side].entries()) {
    const { kind, name } = item
    if (!told.isByName(side, at) || kind === Kind.Instruction) continue
    for (const { stem, number, rest } of numbersInName(name)) {
      const put = (group: string, key: string): void => {
        const numbers: Numbers = found.get(group) ?? new Map<string, Numbered>()
        const numbered: Numbered = numbers.get(number) ?? new Map<string, number>()
        found.set(group, numbers.set(number, numbered.set(key, at)))
      }
      put(`${kind}:${stem}#`, rest)
      if (isSetting(item)) put(`${kind}:#${rest}`, stem)
    }
  }
  return found
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

/** Whether both sides gave numbers anew, each in its own way: then no number says what is meant by it. */
function areOtherwise(one: Moved, other: Moved): boolean {
  if (one.size === 0 || other.size === 0) return false
  return one.size !== other.size || [...one].some(([number, to]) => other.get(number) !== to)
}

/** Whether the other side than this changed a key, put it in or dropped it, and this one has it otherwise than that. */
function isEdited(told: TellApart, links: Links, side: Changed, cls: number): boolean {
  const other = otherSide(side)
  return !isSameIn(told, links, cls, [OLD, other]) && !isSameIn(told, links, cls, [side, other])
}

/** Whether two documents have the same under a key, if nothing. */
function isSameIn(
  told: TellApart,
  links: Links,
  cls: number,
  [a, b]: readonly [Side, Side],
): boolean {
  const [one, other] = [told.items[a][links.member(a, cls)], told.items[b][links.member(b, cls)]]
  return one === undefined || other === undefined ? one === other : one.isSame(other)
}
