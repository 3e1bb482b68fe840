import { firstNotBefore } from './ascending.ts'

/** Nodes of a tree, in their order: each range from one node to before another. */
export class NodeRanges {
  readonly from: number[] = []
  readonly stop: number[] = []
  /** How many nodes are in the ranges before each. */
  private readonly counts: number[] = [0]

  add(from: number, stop: number): void {
    this.from.push(from)
    this.stop.push(stop)
    this.counts.push((this.counts.at(-1) ?? 0) + stop - from)
  }

  get length(): number {
    return this.from.length
  }

  /** How many nodes before `node` are in a range; `node` itself is in none, or the first of one. */
  before(node: number): number {
    return this.countBefore(firstNotBefore(this.from, node))
  }

  /** The node itself, or the one after the range that begins with it. */
  behind(node: number): number {
    const range = firstNotBefore(this.from, node)
    return this.from[range] === node ? (this.stop[range] ?? 0) : node
  }

  /** How many nodes are in the ranges before one of them. */
  countBefore(range: number): number {
    return this.counts[range] ?? 0
  }
}
