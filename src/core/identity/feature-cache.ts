import { nodeOf } from '../document/unit-list.ts'
import { featuresOf } from './likeness.ts'
import type { Matching } from './matching.ts'
import type { Side } from '../document/sides.ts'

/** Features as numbers, to be compared with many others: the same feature has the same number everywhere. */
export interface NumberedFeatures {
  /** Ascending; `times` tells how often each occurs, `total` how often all. */
  numbers: Int32Array
  times: Int32Array
  total: number
}

/** The features of units, each worked out once. */
export class FeatureCache {
  private readonly known = new Map<number, NumberedFeatures>()
  private readonly numbers = new Map<string, number>()

  constructor(private readonly matching: Matching) {}

  of(side: Side, unit: number): NumberedFeatures {
    const id = unit * 3 + side
    let features = this.known.get(id)
    if (features === undefined) {
      features = this.numbered(side, unit)
      this.known.set(id, features)
    }
    return features
  }

  private numbered(side: Side, unit: number): NumberedFeatures {
    const { docs, lists } = this.matching
    const features = featuresOf(docs[side], nodeOf(lists[side], unit))
    const counted = [...features].map(([feature, times]): [number, number] => [
      this.numberOf(feature),
      times,
    ])
    counted.sort(([a], [b]) => a - b)
    return {
      numbers: Int32Array.from(counted, ([number]) => number),
      times: Int32Array.from(counted, ([, times]) => times),
      total: features.total,
    }
  }

  private numberOf(feature: string): number {
    const known = this.numbers.get(feature)
    if (known !== undefined) return known
    this.numbers.set(feature, this.numbers.size)
    return this.numbers.size - 1
  }
}

/** The same as `similarity` of the features themselves. */
export function numberedSimilarity(a: NumberedFeatures, b: NumberedFeatures): number {
  const all = a.total + b.total
  if (all === 0) return 1
  let shared = 0
  let i = 0
  let j = 0
  while (i < a.numbers.length && j < b.numbers.length) {
    const one = a.numbers[i] ?? 0
    const other = b.numbers[j] ?? 0
    if (one === other) shared += Math.min(a.times[i++] ?? 0, b.times[j++] ?? 0)
    else if (one < other) i++
    else j++
  }
  return (2 * shared) / all
}
