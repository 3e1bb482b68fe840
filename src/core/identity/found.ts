import type { Doc } from '../formats/doc.ts'

/** The node of an entry that is as in the first document, and left out of its own. */
export const LEFT_OUT = 0x7fffffff

/** The entries of one document by their identity. */
export interface Found {
  doc: Doc
  size: number
  has(value: string): boolean
  /** The same of the identity that the first document has as so many behind its first. */
  hasFirsts(value: string, rank: number): boolean
  /** The entry's node; undefined where there is none. */
  get(value: string): number | undefined
  values(): Iterable<string>
}

export class FoundByValue implements Found {
  /** Identity to the index of its node. */
  readonly order = new Map<string, number>()
  private readonly nodes: number[] = []

  constructor(readonly doc: Doc) {}

  get size(): number {
    return this.order.size
  }

  /** Adds an entry; of several with one identity the last is found. */
  add(value: string, node: number): void {
    this.order.set(value, this.nodes.length)
    this.nodes.push(node)
  }

  has(value: string): boolean {
    return this.order.has(value)
  }

  hasFirsts(value: string): boolean {
    return this.order.has(value)
  }

  get(value: string): number | undefined {
    const index = this.order.get(value)
    return index === undefined ? undefined : this.nodes[index]
  }

  values(): Iterable<string> {
    return this.order.keys()
  }
}

/**
 * The entries of another document than the first: those with the same text as one of the first have its
 * identity, so that only the others are looked at.
 */
export class FoundByLink implements Found {
  private readonly others = new Map<string, number>()
  /** For each entry of the first document the one here with the same text, or -1. */
  private readonly linked: Int32Array
  private linkedCount = 0

  /** @param order the entries of the first document: identity to index */
  constructor(
    readonly doc: Doc,
    private readonly order: ReadonlyMap<string, number>,
  ) {
    this.linked = new Int32Array(order.size).fill(-1)
  }

  get size(): number {
    return this.linkedCount + this.others.size
  }

  link(index: number, node: number): void {
    this.linked[index] = node
    this.linkedCount++
  }

  /** Adds an entry that is linked to none; all that are have been. */
  add(value: string, node: number): void {
    this.others.set(value, node)
  }

  has(value: string): boolean {
    return this.get(value) !== undefined
  }

  hasFirsts(value: string, rank: number): boolean {
    return (this.linked[rank] ?? -1) >= 0 || this.others.has(value)
  }

  get(value: string): number | undefined {
    const index = this.order.get(value)
    const node = index === undefined ? -1 : (this.linked[index] ?? -1)
    return node >= 0 ? node : this.others.get(value)
  }

  *values(): Iterable<string> {
    for (const [value, index] of this.order) if ((this.linked[index] ?? -1) >= 0) yield value
    yield* this.others.keys()
  }
}
