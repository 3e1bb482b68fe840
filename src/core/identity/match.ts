import type { UnitList } from '../document/unit-list.ts'
import { sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import { AlikeGroups } from './alike-groups.ts'
import { ByKey } from './by-key.ts'
import type { Scope } from './keying.ts'
import { Matching } from './matching.ts'
import { Pairing } from './pairing.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'

/** Matches the units of one container in the three documents; where a document lacks it, its list is undefined. */
export function matchUnits(
  docs: Triple<Doc>,
  lists: Triple<UnitList | undefined>,
  scope: Scope,
): Matching {
  const matching = new Matching(docs, lists, scope)
  const byKey = new ByKey(matching)
  byKey.addVanilla()
  const same = ([NEW, OLD] as const).find((side) => areSame(matching, side))
  new AlikeGroups(matching, byKey.keys).match(same === undefined ? SIDES : [OLD, NEW])
  const pairing = new Pairing(matching)
  if (!isComplete(matching, [OLD, NEW])) pairing.pair(OLD, NEW)
  if (same !== undefined) follow(matching, same)
  else {
    byKey.addMine()
    if (!isComplete(matching, SIDES)) {
      pairing.pair(OLD, MINE)
      pairing.pair(NEW, MINE)
    }
  }
  byKey.findTwins()
  return matching
}

/**
 * Whether mine has the units of another document one by one, by value: then each is that one, whatever a key
 * or likeness would say of entries that nothing tells apart.
 */
function areSame({ docs, lists }: Matching, side: Side): boolean {
  const [theirs, mine] = [lists[side], lists[MINE]]
  if (theirs === undefined || mine === undefined || theirs.length !== mine.length) return false
  for (let unit = 0; unit < mine.length; unit++) {
    if (theirs.isComment(unit) !== mine.isComment(unit)) return false
    if (!sameContent(docs[side], theirs.node(unit), docs[MINE], mine.node(unit))) return false
  }
  return true
}

function follow(matching: Matching, side: Side): void {
  for (const [unit, cls] of matching.classOf[side].entries()) matching.put(cls, MINE, unit)
}

function isComplete(matching: Matching, sides: readonly Side[]): boolean {
  const counts = sides.map((side) => matching.lists[side]?.length ?? 0)
  return counts.every((count) => count === 0 || count === matching.length)
}
