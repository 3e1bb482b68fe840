import { firstNotBefore } from './ascending.ts'

/**
 * Stretches of siblings, with all that is in them, that a document has as another one has them, and that
 * are left out of its own nodes. In the order of both documents.
 */
export class Stretches {
  /** The node of this document before which each stands, were it in its tree. */
  readonly before: number[] = []
  /** Its nodes in the other document: the first, and the one after its last. */
  readonly from: number[] = []
  readonly stop: number[] = []
  /** The offset in this document at which it begins, in UTF-16 code units. */
  readonly at: number[] = []

  get length(): number {
    return this.before.length
  }

  add(before: number, from: number, stop: number, at: number): void {
    this.before.push(before)
    this.from.push(from)
    this.stop.push(stop)
    this.at.push(at)
  }

  /** The stretch that a node of the other document is in; -1 where it is in none. */
  around(node: number): number {
    const { from, stop } = this
    const last = firstNotBefore(from, node + 1) - 1
    return node < (stop[last] ?? 0) ? last : -1
  }
}
