import type { Token } from './only-ones.ts'
import { onlyInBoth } from './only-ones.ts'

/** A stretch of `a` that `b` has otherwise: `[aStart, aEnd)` became `[bStart, bEnd)`. */
export interface Hunk {
  aStart: number
  aEnd: number
  bStart: number
  bEnd: number
}

/** A shortest edit of so few steps is taken before any line is fixed. */
const FEW_STEPS = 100
/** The search for a shortest edit is given up beyond this many steps; the stretch is then one hunk. */
const MOST_STEPS = 1500

/**
 * The hunks that turn one sequence of lines, or of other things, into another: a shortest edit (Myers 1986). Where that has
 * many steps, lines that both have just once are fixed first, as far as they are in order (patience
 * diff), and the shortest edit is looked for between them.
 */
export function diff(a: readonly Token[], b: readonly Token[]): Hunk[] {
  const hunks: Hunk[] = []
  compare(a, b, { aStart: 0, aEnd: a.length, bStart: 0, bEnd: b.length }, hunks)
  return joined(hunks)
}

function compare(a: readonly Token[], b: readonly Token[], range: Hunk, hunks: Hunk[]): void {
  let { aStart, aEnd, bStart, bEnd } = range
  while (aStart < aEnd && bStart < bEnd && a[aStart] === b[bStart]) {
    aStart++
    bStart++
  }
  while (aStart < aEnd && bStart < bEnd && a[aEnd - 1] === b[bEnd - 1]) {
    aEnd--
    bEnd--
  }
  if (aStart === aEnd && bStart === bEnd) return
  const inner = { aStart, aEnd, bStart, bEnd }
  if (aStart === aEnd || bStart === bEnd) {
    hunks.push(inner)
    return
  }
  if (shortest(a, b, inner, { hunks, most: FEW_STEPS })) return
  const anchors = onlyInBoth(a, b, { a: [aStart, aEnd], b: [bStart, bEnd] })
  if (anchors.length === 0) {
    if (!shortest(a, b, inner, { hunks, most: MOST_STEPS })) hunks.push(inner)
    return
  }
  for (const [i, j] of anchors) {
    compare(a, b, { aStart, aEnd: i, bStart, bEnd: j }, hunks)
    aStart = i + 1
    bStart = j + 1
  }
  compare(a, b, { aStart, aEnd, bStart, bEnd }, hunks)
}

/** A shortest edit by the greedy algorithm of Myers; gives whether there is one of at most so many steps. */
function shortest(
  a: readonly Token[],
  b: readonly Token[],
  range: Hunk,
  into: { hunks: Hunk[]; most: number },
): boolean {
  const n = range.aEnd - range.aStart
  const m = range.bEnd - range.bStart
  const most = Math.min(n + m, into.most)
  const reach = new Int32Array(2 * most + 3)
  const trace: Int32Array[] = []
  for (let d = 0; d <= most; d++) {
    trace.push(reach.slice(most - d, most + d + 3))
    for (let k = -d; k <= d; k += 2) {
      const at = k + most + 1
      const down = k === -d || (k !== d && (reach[at - 1] ?? 0) < (reach[at + 1] ?? 0))
      let x = down ? (reach[at + 1] ?? 0) : (reach[at - 1] ?? 0) + 1
      while (x < n && x - k < m && a[range.aStart + x] === b[range.bStart + x - k]) x++
      reach[at] = x
      if (x >= n && x - k >= m) {
        backtrack(trace, range, into.hunks)
        return true
      }
    }
  }
  return false
}

/** Walks the steps of the greedy search back from the end; each is one line dropped or added. */
function backtrack(trace: readonly Int32Array[], range: Hunk, hunks: Hunk[]): void {
  let x = range.aEnd - range.aStart
  let y = range.bEnd - range.bStart
  const found: Hunk[] = []
  for (let d = trace.length - 1; d > 0; d--) {
    const reach = trace[d] ?? new Int32Array(0)
    const value = (k: number): number => reach[k + d + 1] ?? 0
    const k = x - y
    const down = k === -d || (k !== d && value(k - 1) < value(k + 1))
    const fromK = down ? k + 1 : k - 1
    const fromX = value(fromK)
    const fromY = fromX - fromK
    const [aStart, bStart] = [range.aStart + fromX, range.bStart + fromY]
    found.push({
      aStart,
      aEnd: down ? aStart : aStart + 1,
      bStart,
      bEnd: down ? bStart + 1 : bStart,
    })
    x = fromX
    y = fromY
  }
  hunks.push(...found.reverse())
}

/** Hunks that touch are one. */
function joined(hunks: readonly Hunk[]): Hunk[] {
  const result: Hunk[] = []
  for (const hunk of hunks) {
    const last = result.at(-1)
    if (last !== undefined && last.aEnd === hunk.aStart && last.bEnd === hunk.bStart) {
      result[result.length - 1] = { ...last, aEnd: hunk.aEnd, bEnd: hunk.bEnd }
    } else result.push(hunk)
  }
  return result
}
