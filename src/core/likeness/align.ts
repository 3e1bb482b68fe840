import { diff } from './diff.ts'
import type { Pair, Token } from './only-ones.ts'
import { onlyInBoth } from './only-ones.ts'

/** From so many comparisons on a stretch is aligned by its shortest edit alone. */
const MOST_CELLS = 400_000

/** Whether what stands at a rank of the second sequence may have been put there for what the first has at another. */
type MayReplace = (a: number, b: number) => boolean

const ALWAYS: MayReplace = () => true

/** What two sequences are aligned by, beside what is equal in them. */
interface Ways {
  isFree: boolean
  mayReplace: MayReplace
}

/** A stretch of each of two sequences, the ends not included. */
interface Range {
  a: Pair
  b: Pair
}

/**
 * What is equal in two sequences, in order: a longest common subsequence, of which those are taken whose gaps
 * are most even (the sum over all gaps of what the longer side has there is least, where the one may replace the
 * other), then those of fewest gaps, then the leftmost. What stands once in either is fixed first, as far as it is
 * in order.
 *
 * @param isFree whether nothing is fixed, so that it is the longest of all, and the number of gaps does not count
 */
export function alignEqual(
  a: readonly Token[],
  b: readonly Token[],
  isFree = false,
  mayReplace = ALWAYS,
): Pair[] {
  let start = 0
  while (start < a.length && start < b.length && a[start] === b[start]) start++
  const [stopA, stopB] = isFree ? [a.length, b.length] : beforeEnd(a, b, start)
  const pairs: Pair[] = Array.from({ length: start }, (_, i) => [i, i])
  let from: Pair = [start, start]
  const range = { a: [start, stopA], b: [start, stopB] } as const
  for (const to of [...(isFree ? [] : onlyInBoth(a, b, range)), undefined]) {
    const [endA, endB] = to ?? [stopA, stopB]
    const between = { a: [from[0], endA], b: [from[1], endB] } as const
    alignBetween(a, b, between, { isFree, mayReplace }, pairs)
    if (to === undefined) break
    pairs.push(to)
    from = [to[0] + 1, to[1] + 1]
  }
  for (let i = stopA; i < a.length; i++) pairs.push([i, i - stopA + stopB])
  return pairs
}

/** The same, but of several ways that are as good the rightmost. */
function alignFromEnd(
  a: readonly Token[],
  b: readonly Token[],
  isFree: boolean,
  mayReplace: MayReplace,
): Pair[] {
  const [lastA, lastB] = [a.length - 1, b.length - 1]
  const turned = alignEqual(a.toReversed(), b.toReversed(), isFree, (i, j) =>
    mayReplace(lastA - i, lastB - j),
  )
  return turned.map(([i, j]): Pair => [lastA - i, lastB - j]).reverse()
}

/** Where the end begins that two sequences have in common and nothing of which may as well stand further up. */
function beforeEnd(a: readonly Token[], b: readonly Token[], start: number): Pair {
  let [stopA, stopB] = [a.length, b.length]
  while (stopA > start && stopB > start && a[stopA - 1] === b[stopB - 1]) {
    stopA--
    stopB--
  }
  const further = new Set([...a.slice(start, stopA), ...b.slice(start, stopB)])
  while (stopA < a.length && further.has(a[stopA] ?? '')) {
    stopA++
    stopB++
  }
  return [stopA, stopB]
}

/** Of lists with so many comparisons an alignment is remembered. */
const LONG = 10_000
/** So many are. */
const REMEMBERED = 24

/** Aligns sequences; a long one is mostly asked for again, to prove a list by doing its carry once more. */
export class Aligner {
  private readonly known: { a: readonly Token[]; b: readonly Token[]; pairs: readonly Pair[] }[] =
    []

  /**
   * @param isFree whether nothing is fixed beforehand, and the number of gaps does not count
   * @param isFromEnd whether of several ways that are as good the rightmost is taken
   */
  constructor(
    private readonly isFree = false,
    private readonly isFromEnd = false,
  ) {}

  /** @param mayReplace says the same of the same tokens each time */
  align(a: readonly Token[], b: readonly Token[], mayReplace = ALWAYS): readonly Pair[] {
    if (a.length * b.length < LONG) return this.alignAnew(a, b, mayReplace)
    const known = this.known.find((each) => areEqual(each.a, a) && areEqual(each.b, b))
    if (known !== undefined) return known.pairs
    const pairs = this.alignAnew(a, b, mayReplace)
    if (this.known.push({ a, b, pairs }) > REMEMBERED) this.known.shift()
    return pairs
  }

  private alignAnew(a: readonly Token[], b: readonly Token[], mayReplace: MayReplace): Pair[] {
    const align = this.isFromEnd ? alignFromEnd : alignEqual
    return align(a, b, this.isFree, mayReplace)
  }
}

/** Whether two lists hold the same tokens in the same order. */
export function areEqual(a: readonly Token[], b: readonly Token[]): boolean {
  return a === b || (a.length === b.length && a.every((token, at) => token === b[at]))
}

/** Whether several lists all hold the same. */
export function areAllEqual([first = [], ...others]: readonly (readonly Token[])[]): boolean {
  return others.every((other) => areEqual(first, other))
}

/** What the gaps of an alignment cost: in each as many steps as the longer of its sides has things. */
export function costOf(pairs: readonly Pair[], lengthA: number, lengthB: number): number {
  let cost = 0
  let [i, j] = [0, 0]
  for (const [x, y] of [...pairs, [lengthA, lengthB] as Pair]) {
    cost += Math.max(x - i, y - j)
    ;[i, j] = [x + 1, y + 1]
  }
  return cost
}

function alignBetween(
  a: readonly Token[],
  b: readonly Token[],
  range: Range,
  ways: Ways,
  pairs: Pair[],
): void {
  const [rows, columns] = [range.a[1] - range.a[0], range.b[1] - range.b[0]]
  if (rows === 0 || columns === 0) return
  if ((rows + 1) * (columns + 1) <= MOST_CELLS) new Table(a, b, range, ways).follow(pairs)
  else byShortestEdit(a, b, range, pairs)
}

function byShortestEdit(
  a: readonly Token[],
  b: readonly Token[],
  range: Range,
  pairs: Pair[],
): void {
  let [i, j] = [range.a[0], range.b[0]]
  for (const hunk of diff(a.slice(...range.a), b.slice(...range.b))) {
    while (i < range.a[0] + hunk.aStart) pairs.push([i++, j++])
    i = range.a[0] + hunk.aEnd
    j = range.b[0] + hunk.bEnd
  }
  while (i < range.a[1] && j < range.b[1]) pairs.push([i++, j++])
}

/** A pair is worth more than any cost; a step of cost more than any number of gaps. */
const PAIR = 2 ** 40
const STEP = 2 ** 20

/**
 * The best that can come of the rest of two stretches from each two ranks on: by dynamic programming
 * (Needleman and Wunsch, 1970), with the state whether a gap is open.
 */
class Table {
  private readonly rows: number
  private readonly width: number
  private readonly inGap: Float64Array
  private readonly closed: Float64Array

  constructor(
    private readonly a: readonly Token[],
    private readonly b: readonly Token[],
    private readonly range: Range,
    private readonly ways: Ways,
  ) {
    const costOfGap = ways.isFree ? 0 : 1
    this.rows = range.a[1] - range.a[0]
    this.width = range.b[1] - range.b[0] + 1
    this.inGap = new Float64Array((this.rows + 1) * this.width)
    this.closed = new Float64Array((this.rows + 1) * this.width)
    for (let i = this.rows; i >= 0; i--)
      for (let j = this.width - 1; j >= 0; j--) {
        const gap = this.bestGap(i, j)
        const at = i * this.width + j
        const pair = this.isEqual(i, j) ? PAIR + this.best(this.closed, i + 1, j + 1) : -Infinity
        this.inGap[at] = Math.max(pair, gap)
        this.closed[at] =
          i === this.rows && j === this.width - 1 ? 0 : Math.max(pair, gap - costOfGap)
      }
  }

  /** Adds the pairs, in order; where several ways are as good, what can be paired first is. */
  follow(pairs: Pair[]): void {
    let [i, j, open] = [0, 0, false]
    while (i < this.rows && j < this.width - 1) {
      const best = this.best(open ? this.inGap : this.closed, i, j)
      if (this.isEqual(i, j) && best === PAIR + this.best(this.closed, i + 1, j + 1)) {
        pairs.push([this.range.a[0] + i++, this.range.b[0] + j++])
        open = false
        continue
      }
      const gap = this.bestGap(i, j)
      open = true
      if (gap === this.best(this.inGap, i, j + 1) - STEP) j++
      else if (gap === this.bestOfBoth(i, j) - STEP) {
        i++
        j++
      } else i++
    }
  }

  private isEqual(i: number, j: number): boolean {
    if (i >= this.rows || j >= this.width - 1) return false
    return this.a[this.range.a[0] + i] === this.b[this.range.b[0] + j]
  }

  /** The best where neither, or not both, of the two are paired. */
  private bestGap(i: number, j: number): number {
    if (i === this.rows && j === this.width - 1) return 0
    return (
      Math.max(
        this.bestOfBoth(i, j),
        this.best(this.inGap, i + 1, j),
        this.best(this.inGap, i, j + 1),
      ) - STEP
    )
  }

  /** The best where one step goes past one of each. */
  private bestOfBoth(i: number, j: number): number {
    const isStep = this.ways.mayReplace(this.range.a[0] + i, this.range.b[0] + j)
    return isStep ? this.best(this.inGap, i + 1, j + 1) : -Infinity
  }

  private best(table: Float64Array, i: number, j: number): number {
    return i > this.rows || j >= this.width ? -Infinity : (table[i * this.width + j] ?? -Infinity)
  }
}
