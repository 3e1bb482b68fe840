import type { UnitList } from '../document/unit-list.ts'
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
  new AlikeGroups(matching, byKey.keys).match()
  const pairing = new Pairing(matching)
  if (!isComplete(matching, [OLD, NEW])) pairing.pair(OLD, NEW)
  byKey.addMine()
  if (!isComplete(matching, SIDES)) {
    pairing.pair(OLD, MINE)
    pairing.pair(NEW, MINE)
  }
  byKey.findTwins()
  return matching
}

function isComplete(matching: Matching, sides: readonly Side[]): boolean {
  const counts = sides.map((side) => matching.lists[side]?.length ?? 0)
  return counts.every((count) => count === 0 || count === matching.length)
}
