import { sameSlice } from '../document/same-text.ts'
import type { Aligner } from '../likeness/align.ts'
import type { Compared, Features } from '../likeness/features.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import { sampled } from '../likeness/sampled.ts'
import type { Value, Values } from '../likeness/value.ts'
import type { Doc } from '../formats/doc.ts'
import type { Candidate, Partners } from './partners.ts'
import { partnersOf } from './partners.ts'
import type { Known } from './known.ts'
import type { Siblings } from './siblings.ts'

/** So many siblings tell how rare a value is. */
const SIBLINGS = 64

/** The entries of the first document beside those of each of the others: who is whose partner, and how alike they are. */
export class Comparison {
  private readonly rarities = new Map<number, Rarity>()
  private readonly partners = new Map<Candidate, Map<number, readonly Partners[]>>()
  private readonly byEntry = new Map<readonly Partners[], ReadonlyMap<number, number>>()

  constructor(
    readonly siblings: Siblings,
    private readonly known: Known,
  ) {}

  /** The documents beside the first that have entries, if the first has any. */
  others(): number[] {
    const { siblings } = this
    if (siblings.count(0) === 0) return []
    return siblings.docs
      .map((_, d) => d)
      .filter((d) => d > 0 && siblings.count(d) > 0 && siblings.docs[d] !== siblings.docs[0])
  }

  /** The entries that a candidate takes for one, worked out once. */
  partnersOf(candidate: Candidate, d: number): readonly Partners[] {
    let known = this.partners.get(candidate)
    if (known === undefined) this.partners.set(candidate, (known = new Map()))
    let partners = known.get(d)
    if (partners === undefined) known.set(d, (partners = partnersOf(candidate, d)))
    return partners
  }

  /** The same by the first document's entry. */
  partnersByEntry(candidate: Candidate, d: number): ReadonlyMap<number, number> {
    const partners = this.partnersOf(candidate, d)
    let known = this.byEntry.get(partners)
    if (known === undefined) this.byEntry.set(partners, (known = new Map(partners)))
    return known
  }

  areSame(d: number, [a, b]: Partners): boolean {
    return sameSlice(this.docOf(0).tree, a, this.docOf(d).tree, b)
  }

  /** How alike an entry of the first document and one of another are, some paths aside. */
  alike(d: number, partners: Partners, without?: ReadonlySet<number>): number {
    if (this.areSame(d, partners)) return 1
    const [a, b] = partners
    const [one, other] = [this.compared(0, a), this.compared(d, b)]
    return one.features === other.features ? 1 : likeness(one, other, without).score
  }

  private compared(d: number, node: number): Compared {
    let rarity = this.rarities.get(d)
    if (rarity === undefined) {
      const siblings = sampled((this.siblings.groups[d] ?? []).flat(), SIBLINGS)
      rarity = new Rarity(siblings.map((entry) => this.featuresOf(this.valueOf(d, entry))))
      this.rarities.set(d, rarity)
    }
    return { features: this.featuresOf(this.valueOf(d, node)), rarity }
  }

  featuresOf(value: Value): Features {
    return this.known.features.of(value)
  }

  valueOf(d: number, node: number): Value {
    return this.known.values.of(this.docOf(d), node)
  }

  get aligner(): Aligner {
    return this.known.aligner
  }

  get values(): Values {
    return this.known.values
  }

  docOf(d: number): Doc {
    const doc = this.siblings.docs[d]
    if (doc === undefined) throw new Error(`there is no document ${d}`)
    return doc
  }

  /** The number of the path at which a candidate's identity stands. */
  pathOf({ identity }: Candidate): number {
    return this.known.features.pathNumber(identity.text)
  }
}
