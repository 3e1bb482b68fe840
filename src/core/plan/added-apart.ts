import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Matching } from '../match/matching.ts'
import type { Entries } from './entries.ts'

/** Where an entry stands among those of old: behind one of them and before another, by their units there. */
type Gap = readonly [after: number, before: number]

/**
 * Entries that both sides added, equal, that no strong identity tells, and that stand at different places: they are
 * taken for one, and may be two.
 *
 * @returns their classes, in the order of mine
 */
export function addedApart(entries: Entries): number[] {
  const { matching } = entries
  // of what is asked it is known already that nothing tells which is which
  const asked = new Set(matching.stretches.flatMap((stretch) => [...stretch]))
  const added = matching.classOf[MINE].filter(
    (cls, unit) =>
      matching.unit(OLD, cls) < 0 &&
      matching.unit(NEW, cls) >= 0 &&
      !entries.isComment(cls) &&
      !matching.isWords(MINE, unit) &&
      !matching.hasDormant(cls) &&
      !asked.has(cls) &&
      matching.isLoose(cls),
  )
  if (added.length === 0) return []
  const [inNew, inMine] = [gapsOf(matching, NEW), gapsOf(matching, MINE)]
  return added.filter((cls) => {
    const [fresh, mine] = [matching.unit(NEW, cls), matching.unit(MINE, cls)]
    return areApart(surely(inNew[fresh]), surely(inMine[mine]))
  })
}

/** Whether no place of old is in both; one that runs backwards, between entries that were moved, is anywhere. */
function areApart(one: Gap, other: Gap): boolean {
  const isAnywhere = ([after, before]: Gap): boolean => after >= before
  if (isAnywhere(one) || isAnywhere(other)) return false
  return Math.max(one[0], other[0]) >= Math.min(one[1], other[1])
}

/** Of each unit of a document the place among those of old. */
function gapsOf(matching: Matching, side: Side): Gap[] {
  const inOld = matching.classOf[side].map((cls) => matching.unit(OLD, cls))
  let nearest = -1
  const after = inOld.map((unit) => {
    const behind = nearest
    if (unit >= 0) nearest = unit
    return behind
  })
  nearest = Number.POSITIVE_INFINITY
  const before = inOld.toReversed().map((unit) => {
    const ahead = nearest
    if (unit >= 0) nearest = unit
    return ahead
  })
  return after.map((behind, unit) => [behind, surely(before[inOld.length - 1 - unit])])
}
