import type { Pair } from './likeness.ts'
import { align } from './likeness.ts'

/** One of two sequences whose items are to be paired. */
export interface Sequence {
  length: number
  /** The keys under which an item is equal to an item of the other sequence, the first preferred. */
  keys: (at: number) => readonly string[]
}

export interface PairingRule {
  /** From which likeness on two items may be one. */
  least: number
  /** Whether items that are alike to none are one by their order, where there are as many here as there. */
  fill: boolean
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
  { least, fill }: PairingRule,
): Pair[] {
  const pairs: Pair[] = []
  let from: Pair = [0, 0]
  for (const anchor of [...anchors(a, b), [a.length, b.length] as Pair]) {
    const [i, j] = from
    const inGap = align([anchor[0] - i, anchor[1] - j], (x, y) => alike(i + x, j + y), least)
    const filled = fill ? withEqualGaps(inGap, [anchor[0] - i, anchor[1] - j]) : inGap
    for (const [x, y] of filled) pairs.push([i + x, j + y])
    if (anchor[0] < a.length) pairs.push(anchor)
    from = [anchor[0] + 1, anchor[1] + 1]
  }
  return [...pairs, ...moved(a, b, pairs)]
}

/** Between two pairs as many items here as there: they are paired in their order. */
function withEqualGaps(pairs: readonly Pair[], lengths: Pair): Pair[] {
  const filled: Pair[] = []
  let [i, j] = [0, 0]
  for (const [x, y] of [...pairs, lengths]) {
    if (x - i === y - j) for (let at = 0; at < x - i; at++) filled.push([i + at, j + at])
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
  return found.filter(([i], at) => inOrder.has(at) && found[at - 1]?.[0] !== i)
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

/** Indices of a longest increasing subsequence (patience sorting, n log n). */
export function longestIncreasing(values: readonly number[]): Set<number> {
  const tails: number[] = []
  const previous: number[] = []
  for (const [i, value] of values.entries()) {
    let low = 0
    let high = tails.length
    while (low < high) {
      const middle = (low + high) >> 1
      if ((values[tails[middle] ?? 0] ?? 0) < value) low = middle + 1
      else high = middle
    }
    previous[i] = low > 0 ? (tails[low - 1] ?? -1) : -1
    tails[low] = i
  }
  const stays = new Set<number>()
  for (let i = tails.at(-1) ?? -1; i >= 0; i = previous[i] ?? -1) stays.add(i)
  return stays
}
