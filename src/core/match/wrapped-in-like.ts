import { Kind } from '../document/kind.ts'
import { OLD, SIDES } from '../document/sides.ts'
import type { Value } from '../likeness/value.ts'
import { wordsIn } from '../likeness/value.ts'
import type { Item } from './item.ts'
import { NodeItem } from './item.ts'
import type { Links } from './links.ts'
import type { Shifted } from './shifted-names.ts'
import { isChangedByBoth } from './shifted-names.ts'
import type { TellApart } from './tell-apart.ts'

/**
 * Entries that a side may have put inside a new one of the same name (`<box w="1"/>` became
 * `<box w="9"><row><box w="1"/></row></box>`): what stands in their place is another entry then. Only those that both
 * changed, differently: of any other it makes no difference.
 */
export function wrappedInLike(told: TellApart, links: Links): Shifted {
  const found = new Map<number, undefined>()
  for (let cls = 0; cls < links.length; cls++) {
    const at = links.member(OLD, cls)
    // an identity says which entry it is, wherever it stands
    if (at < 0 || told.meansOf(OLD, at).by === 'identity') continue
    const items = SIDES.flatMap((side) => told.items[side][links.member(side, cls)] ?? [])
    if (!items.every(isSmall) || !isChangedByBoth(told, links, cls)) continue
    const [old, fresh, mine] = items.map(({ value }) => held(value)) as [Value, Value, Value]
    if (isInside(old, fresh) || isInside(old, mine)) found.set(cls, undefined)
  }
  return found
}

/** An entry of so many code units is looked into: to compare the values of a whole document costs more than its carry. */
const MOST_UNITS = 10_000

function isSmall(item: Item): boolean {
  if (!(item instanceof NodeItem)) return true
  const { doc, node } = item
  return doc.tree.end(node) - doc.tree.start(node) <= MOST_UNITS
}

/** What a member holds is the entry, not the member. */
function held(value: Value): Value {
  return value.kind === Kind.Member ? (value.parts[0] ?? value) : value
}

/** Whether one entry stands inside another of its name, which says something else itself. */
function isInside(one: Value, other: Value): boolean {
  // with nothing of the same name in it the other is no new one of its sort, and what is changed has no place in it
  const [words, others] = [wordsIn(one), wordsIn(other)]
  if (![...words.keys()].some((step) => others.has(step)) || isLike(one, other)) return false
  return hasInside(other, one) && !hasInside(one, one)
}

function hasInside({ parts }: Value, one: Value): boolean {
  return parts.some((part) => isLike(one, part) || hasInside(part, one))
}

/** Whether two entries have one name, and the same texts directly in them. */
function isLike(one: Value, other: Value): boolean {
  if (one.kind !== other.kind || one.name !== other.name) return false
  const [ones, others] = [wordsIn(one), wordsIn(other)]
  return ones.size === others.size && [...ones].every(([step, text]) => others.get(step) === text)
}
