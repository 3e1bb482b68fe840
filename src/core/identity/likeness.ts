import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'

/** Beyond this many comparisons an alignment gives way to pairing in order. */
const MOST_COMPARISONS = 40_000

/** Every value in a node with the path to it, and how often it occurs: what two nodes may share. */
export class Features {
  /** How many there are, each as often as it occurs. */
  total = 0
  private readonly counts = new Map<string, number>()

  add(feature: string, times = 1): void {
    this.total += times
    this.counts.set(feature, (this.counts.get(feature) ?? 0) + times)
  }

  /** How often a feature occurs. */
  times(feature: string): number {
    return this.counts.get(feature) ?? 0
  }

  names(): Iterable<string> {
    return this.counts.keys()
  }

  [Symbol.iterator](): Iterator<[feature: string, times: number]> {
    return this.counts.entries()
  }
}

export function featuresOf(doc: Doc, node: number): Features {
  const features = new Features()
  collect(doc, node, '', features)
  return features
}

function collect(doc: Doc, node: number, path: string, features: Features): void {
  const kind = doc.kind(node)
  if (kind === Kind.Comment || kind === Kind.Text) {
    const text = kind === Kind.Comment ? doc.commentText(node) : doc.value(node)
    for (const word of text.split(/\s+/)) features.add(word)
    return
  }
  const here = `${path}/${doc.name(node)}`
  const leaf =
    kind !== Kind.Element && kind !== Kind.Object && kind !== Kind.Array && kind !== Kind.Member
  if (leaf && kind !== Kind.Section && kind !== Kind.Document) {
    features.add(`${here}=${doc.value(node)}`)
    return
  }
  if (kind === Kind.Element && doc.isLeafElement(node))
    features.add(`${here}=${doc.elementText(node)}`)
  for (const child of doc.children(node)) {
    const childKind = doc.kind(child)
    if (childKind !== Kind.Comment && childKind !== Kind.Text) collect(doc, child, here, features)
  }
}

/** From 0 (nothing in common) to 1 (all values shared): twice the shared ones over all (Dice). */
export function similarity(a: Features, b: Features): number {
  const all = a.total + b.total
  if (all === 0) return 1
  let shared = 0
  for (const [feature, times] of a) shared += Math.min(times, b.times(feature))
  return (2 * shared) / all
}

/** A pair of positions in two sequences that are taken for one entry. */
export type Pair = [a: number, b: number]

/**
 * The pairs, in order in both sequences, with the greatest sum of likeness; none below `least`.
 * The alignment of Needleman and Wunsch (1970), with no price on gaps.
 */
export function align(
  lengths: readonly [number, number],
  alike: (a: number, b: number) => number,
  least: number,
): Pair[] {
  const [rows, columns] = lengths
  if (rows * columns > MOST_COMPARISONS) return alignInOrder(lengths, alike, least)
  const width = columns + 1
  const best = new Float64Array((rows + 1) * width)
  const score = new Float64Array(rows * columns)
  for (let i = rows - 1; i >= 0; i--) {
    for (let j = columns - 1; j >= 0; j--) {
      const likeness = alike(i, j)
      score[i * columns + j] = likeness
      const paired = likeness >= least ? likeness + (best[(i + 1) * width + j + 1] ?? 0) : -1
      const skipped = Math.max(best[(i + 1) * width + j] ?? 0, best[i * width + j + 1] ?? 0)
      best[i * width + j] = Math.max(paired, skipped)
    }
  }
  return trace(lengths, best, score, least)
}

function trace(
  [rows, columns]: readonly [number, number],
  best: Float64Array,
  score: Float64Array,
  least: number,
): Pair[] {
  const width = columns + 1
  const pairs: Pair[] = []
  let i = 0
  let j = 0
  while (i < rows && j < columns) {
    const here = best[i * width + j] ?? 0
    const likeness = score[i * columns + j] ?? 0
    if (likeness >= least && here === likeness + (best[(i + 1) * width + j + 1] ?? 0)) {
      pairs.push([i++, j++])
    } else if (here === best[(i + 1) * width + j]) i++
    else j++
  }
  return pairs
}

function alignInOrder(
  [rows, columns]: readonly [number, number],
  alike: (a: number, b: number) => number,
  least: number,
): Pair[] {
  const pairs: Pair[] = []
  for (let i = 0; i < Math.min(rows, columns); i++) if (alike(i, i) >= least) pairs.push([i, i])
  return pairs
}
