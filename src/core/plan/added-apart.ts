import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Matching } from '../match/matching.ts'
import type { Entries } from './entries.ts'

/** Where an entry stands among those of old: behind one of them and before another, by their units there. */
type Gap = readonly [after: number, before: number]

/**
 * Entries that both sides added, equal, that no strong identity tells, and that stand at different places: they are taken for
 * one, and may be two.
 *
 * @returns their classes, in the order of mine
 */
export function addedApart(entries: Entries): number[] {
  const { matching } = entries
  // of what is asked it is known already that nothing tells which is which
  const asked = new Set(matching.stretches.flatMap((stretch) => [...stretch]))
  return matching.classOf[MINE].filter(
    (cls, unit) =>
      matching.unit(OLD, cls) < 0 &&
      matching.unit(NEW, cls) >= 0 &&
      !entries.isComment(cls) &&
      !matching.isWords(MINE, unit) &&
      !matching.hasDormant(cls) &&
      !asked.has(cls) &&
      matching.isLoose(cls) &&
      areApart(gapOf(matching, NEW, cls), gapOf(matching, MINE, cls)),
  )
}

/** Whether no place of old is in both; one that runs backwards, between entries that were moved, is anywhere. */
function areApart(one: Gap, other: Gap): boolean {
  const isAnywhere = ([after, before]: Gap): boolean => after >= before
  if (isAnywhere(one) || isAnywhere(other)) return false
  return Math.max(one[0], other[0]) >= Math.min(one[1], other[1])
}

function gapOf(matching: Matching, side: Side, cls: number): Gap {
  const classes = matching.classOf[side]
  const own = matching.unit(side, cls)
  const inOld = (unit: number): number => matching.unit(OLD, surely(classes[unit]))
  let [before, after] = [own - 1, own + 1]
  while (before >= 0 && inOld(before) < 0) before--
  while (after < classes.length && inOld(after) < 0) after++
  return [
    before < 0 ? -1 : inOld(before),
    after < classes.length ? inOld(after) : Number.POSITIVE_INFINITY,
  ]
}
