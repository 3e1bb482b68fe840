import { timesOf } from '../document/gather.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import type { Aligner } from '../likeness/align.ts'
import { areEqual, costOf } from '../likeness/align.ts'
import type { Token } from '../likeness/only-ones.ts'
import type { Changed } from './links.ts'
import { otherSide } from './links.ts'

/**
 * What a side's list says of the other side's changes: it `holds` them all, it is as far from them as old is
 * (`tie`), so that it may, or neither.
 */
export type Holding = { side: Changed; isSure: boolean } | 'both' | undefined

/** The side that surely has the other's changes. */
export function heldBy(holding: Holding): Changed | undefined {
  return typeof holding === 'object' && holding.isSure ? holding.side : undefined
}

/**
 * Whether one side's list has the other side's changes already, as the result of a carry has: where values are
 * repeated an alignment alone cannot tell, and they would come twice. Where two of the lists are the same there
 * is nothing to tell: one side at most changed them, or both did the same.
 *
 * @param tokens what the items that no strong identity tells are equal by
 */
export function alreadyCarried(tokens: Triple<readonly Token[]>, aligner: Aligner): Holding {
  if (!tokens.some((each) => new Set(each).size < each.length)) return undefined
  const [old, fresh, mine] = tokens
  if (areEqual(old, fresh) || areEqual(old, mine) || areEqual(fresh, mine)) return undefined
  const byNew = holds(tokens, NEW, aligner)
  const byMine = holds(tokens, MINE, aligner)
  if (byNew !== undefined && byMine !== undefined) return 'both'
  return byNew ?? byMine
}

/** Whether a side has the changes that the other made to old. */
function holds(
  tokens: Triple<readonly Token[]>,
  side: Changed,
  aligner: Aligner,
): { side: Changed; isSure: boolean } | undefined {
  const [old, theirs, own] = [tokens[OLD], tokens[otherSide(side)], tokens[side]]
  const [fromTheirs, fromOld] = [distance(theirs, own, aligner), distance(old, own, aligner)]
  if (fromTheirs > fromOld) return undefined
  const [inOld, inTheirs, inOwn] = [timesOf(old), timesOf(theirs), timesOf(own)]
  const count = (counts: ReadonlyMap<Token, number>, token: Token): number => counts.get(token) ?? 0
  const [there, here] = [becameOf(old, theirs, aligner), becameOf(old, own, aligner)]
  for (const [i, token] of old.entries()) {
    const isDropped = there[i] === undefined
    if (isDropped && here[i] !== undefined && here[i] !== token) return undefined
    const isGone = isDropped || (there[i] !== token && count(inTheirs, token) === 0)
    if (isGone && count(inOwn, token) > count(inTheirs, token)) return undefined
  }
  const kept = becameOf(theirs, own, aligner)
  let isSure = fromTheirs < fromOld
  for (const [token, times] of inTheirs) {
    const brought = times - count(inOld, token)
    if (brought <= 0) continue
    if (count(inOwn, token) < brought) return undefined
    if (theirs.some((each, j) => each === token && kept[j] === undefined)) return undefined
    if (count(inOwn, token) < times) isSure = false
  }
  return { side, isSure }
}

/** What became of each item of old: itself, what stands in its place, or undefined where it was dropped. */
function becameOf(
  old: readonly Token[],
  side: readonly Token[],
  aligner: Aligner,
): (Token | undefined)[] {
  const became = new Array<Token | undefined>(old.length).fill(undefined)
  let [i, j] = [0, 0]
  for (const [x, y] of [...aligner.align(old, side), [old.length, side.length] as const]) {
    if (x - i === y - j) for (let at = 0; at < x - i; at++) became[i + at] = side[j + at]
    if (x < old.length) became[x] = old[x]
    ;[i, j] = [x + 1, y + 1]
  }
  return became
}

function distance(a: readonly Token[], b: readonly Token[], aligner: Aligner): number {
  return costOf(aligner.align(a, b), a.length, b.length)
}
