import type { Features } from './likeness.ts'
import { featuresOf } from './likeness.ts'
import type { Matching } from './matching.ts'
import type { Side } from './sides.ts'

/** The features of units, each worked out once. */
export class FeatureCache {
  private readonly known = new Map<number, Features>()

  constructor(private readonly matching: Matching) {}

  of(side: Side, unit: number): Features {
    const id = unit * 3 + side
    let features = this.known.get(id)
    if (features === undefined) {
      features = featuresOf(this.matching.docs[side], this.matching.lists[side]?.node[unit] ?? 0)
      this.known.set(id, features)
    }
    return features
  }
}
