import type { Pair } from './likeness.ts'
import { align } from './likeness.ts'

/** From which likeness on an item is one with another that stands elsewhere. */
const MUCH_ALIKE = 0.6
/** More comparisons are not made for what stands elsewhere. */
const MOST_MOVED = 10_000

/** One of two sequences whose items are to be paired. */
export interface Sequence {
  length: number
  /** The keys under which an item is equal to an item of the other sequence, the first preferred. */
  keys: (at: number) => readonly string[]
}

export interface PairingRule {
  /** From which likeness on two items may be one. */
  least: number
  /** From which likeness on items are one by their order, where there are as many here as there. */
  leastInOrder: number
}

/**
 * Pairs the items of two sequences: those that are equal and alone of their kind are fixed first (the
 * longest run of them that is in order in both); between them, the pairs with the greatest sum of
 * likeness; what is equal but has moved, last.
 */
export function pairSequences(
  a: Sequence,
  b: Sequence,
  alike: (a: number, b: number) => number,
  { least, leastInOrder }: PairingRule,
): Pair[] {
  const pairs: Pair[] = []
  let from: Pair = [0, 0]
  for (const anchor of [...anchors(a, b), [a.length, b.length] as Pair]) {
    const [i, j] = from
    const lengths: Pair = [anchor[0] - i, anchor[1] - j]
    const here = (x: number, y: number): number => alike(i + x, j + y)
    for (const [x, y] of withEqualGaps(align(lengths, here, least), lengths, here, leastInOrder))
      pairs.push([i + x, j + y])
    if (anchor[0] < a.length) pairs.push(anchor)
    from = [anchor[0] + 1, anchor[1] + 1]
  }
  pairs.push(...moved(a, b, pairs))
  return [...pairs, ...movedAndChanged(a, b, pairs, alike)]
}

/** Between two pairs as many items here as there: they are paired in their order, if alike enough. */
function withEqualGaps(
  pairs: readonly Pair[],
  lengths: Pair,
  alike: (a: number, b: number) => number,
  least: number,
): Pair[] {
  const filled: Pair[] = []
  let [i, j] = [0, 0]
  for (const [x, y] of [...pairs, lengths]) {
    const size = x - i === y - j ? x - i : 0
    for (let at = 0; at < size; at++) {
      if (least === 0 || alike(i + at, j + at) >= least) filled.push([i + at, j + at])
    }
    if (x < lengths[0] && y < lengths[1]) filled.push([x, y])
    i = x + 1
    j = y + 1
  }
  return filled
}

/** Items that are equal to just one item of the other sequence, as far as they are in order. */
function anchors(a: Sequence, b: Sequence): Pair[] {
  const inA = onlyPlaces(a)
  const inB = onlyPlaces(b)
  const found: Pair[] = []
  for (const [key, i] of inA) {
    const j = inB.get(key) ?? -1
    if (i >= 0 && j >= 0) found.push([i, j])
  }
  found.sort(([i], [j]) => i - j)
  const inOrder = longestIncreasing(found.map(([, j]) => j))
  return found.filter(([i], at) => inOrder[at] === 1 && found[at - 1]?.[0] !== i)
}

/** Where the only item with a key stands; -1 where there are several. */
function onlyPlaces(sequence: Sequence): Map<string, number> {
  const places = new Map<string, number>()
  for (let at = 0; at < sequence.length; at++) {
    for (const key of new Set(sequence.keys(at))) places.set(key, places.has(key) ? -1 : at)
  }
  return places
}

function moved(a: Sequence, b: Sequence, pairs: readonly Pair[]): Pair[] {
  const paired = new Set(pairs.map(([i]) => i))
  const pairedB = new Set(pairs.map(([, j]) => j))
  const waiting = new Map<string, number[]>()
  for (let i = a.length - 1; i >= 0; i--) {
    if (paired.has(i)) continue
    for (const key of a.keys(i)) waiting.set(key, [...(waiting.get(key) ?? []), i])
  }
  const found: Pair[] = []
  for (let j = 0; j < b.length; j++) {
    if (pairedB.has(j)) continue
    const free = b.keys(j).flatMap((key) => waiting.get(key) ?? [])
    const i = free.findLast((each) => !paired.has(each))
    if (i === undefined) continue
    paired.add(i)
    found.push([i, j])
  }
  return found
}

/** What is left and much alike, wherever it stands: the most alike first. */
function movedAndChanged(
  a: Sequence,
  b: Sequence,
  pairs: readonly Pair[],
  alike: (a: number, b: number) => number,
): Pair[] {
  const [restA, restB] = [0, 1].map((side) => {
    const paired = new Set(pairs.map((pair) => pair[side]))
    const { length } = side === 0 ? a : b
    return Array.from({ length }, (_, at) => at).filter((at) => !paired.has(at))
  })
  if (restA === undefined || restB === undefined) return []
  if (restA.length * restB.length > MOST_MOVED) return []
  const scored = restA.flatMap((i) =>
    restB
      .map((j) => ({ i, j, likeness: alike(i, j) }))
      .filter((each) => each.likeness >= MUCH_ALIKE),
  )
  scored.sort((x, y) => y.likeness - x.likeness || x.i - y.i || x.j - y.j)
  const found: Pair[] = []
  const done = [new Set<number>(), new Set<number>()] as const
  for (const { i, j } of scored) {
    if (done[0].has(i) || done[1].has(j)) continue
    found.push([i, j])
    done[0].add(i)
    done[1].add(j)
  }
  return found
}

/** For each index whether it is part of one longest increasing subsequence, 1 or 0 (patience sorting, n log n). */
export function longestIncreasing(values: readonly number[]): Uint8Array {
  const tails = new Int32Array(values.length)
  const previous = new Int32Array(values.length)
  let length = 0
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? 0
    // most sequences are nearly in order: what comes next mostly is the greatest so far
    let low = length > 0 && (values[tails[length - 1] ?? 0] ?? 0) < value ? length : 0
    let high = length
    while (low < high) {
      const middle = (low + high) >> 1
      if ((values[tails[middle] ?? 0] ?? 0) < value) low = middle + 1
      else high = middle
    }
    previous[i] = low > 0 ? (tails[low - 1] ?? -1) : -1
    tails[low] = i
    if (low === length) length++
  }
  const stays = new Uint8Array(values.length)
  const last = length > 0 ? (tails[length - 1] ?? -1) : -1
  for (let i = last; i >= 0; i = previous[i] ?? -1) stays[i] = 1
  return stays
}
