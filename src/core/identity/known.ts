import { Aligner } from '../likeness/align.ts'
import { FeatureTable } from '../likeness/features.ts'
import { Values } from '../likeness/value.ts'

/** What is known of the values of the documents of one carry, each worked out once. */
export class Known {
  readonly values = new Values()
  readonly features = new FeatureTable()
  readonly aligner = new Aligner()
  /** Fixes nothing beforehand, so that what stands once is as free to have moved as what is repeated, and so is the end. */
  readonly freeAligner = new Aligner(true)
  /** The same, and of several ways that are as good it takes another one. */
  readonly freeFromEnd = new Aligner(true, true)
}
