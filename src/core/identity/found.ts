import type { Doc } from '../formats/doc.ts'
import type { IdentityTable } from './identity-table.ts'

/** The node of an entry that is as in the first document, and left out of its own. */
export const LEFT_OUT = 0x7fffffff

/** The entries of one document by their identity. */
export interface Found {
  doc: Doc
  size: number
  has(value: string): boolean
  /** Whether the first document's entry of a rank stands here with the same text, whatever its identity is. */
  isLinked(rank: number): boolean
  /** The entry's node; undefined where there is none. */
  get(value: string): number | undefined
  values(): Iterable<string>
  /** One of the values, by its place among them. */
  valueAt(rank: number): string
}

/** The siblings of one container that have an identity of their own each. */
export class FoundInTable implements Found {
  constructor(
    readonly doc: Doc,
    readonly table: IdentityTable,
    private readonly nodes: readonly number[],
  ) {}

  get size(): number {
    return this.table.size
  }

  has(value: string): boolean {
    return this.table.get(value) !== undefined
  }

  isLinked(): boolean {
    return false
  }

  get(value: string): number | undefined {
    const rank = this.table.get(value)
    return rank === undefined ? undefined : this.nodes[rank]
  }

  *values(): Iterable<string> {
    for (let rank = 0; rank < this.size; rank++) yield this.valueAt(rank)
  }

  valueAt(rank: number): string {
    return this.table.valueAt(rank)
  }
}

/** The siblings of several containers: of some with one identity the last is found. */
export class FoundByValue implements Found {
  private readonly nodes = new Map<string, number>()
  private known: string[] | undefined

  constructor(readonly doc: Doc) {}

  get size(): number {
    return this.nodes.size
  }

  add(value: string, node: number): void {
    this.nodes.set(value, node)
  }

  has(value: string): boolean {
    return this.nodes.has(value)
  }

  isLinked(): boolean {
    return false
  }

  get(value: string): number | undefined {
    return this.nodes.get(value)
  }

  values(): Iterable<string> {
    return this.nodes.keys()
  }

  valueAt(rank: number): string {
    this.known ??= [...this.values()]
    return this.known[rank] ?? ''
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
  private known: string[] | undefined

  /** @param first the entries of the first document */
  constructor(
    readonly doc: Doc,
    private readonly first: IdentityTable,
  ) {
    this.linked = new Int32Array(first.size).fill(-1)
  }

  get size(): number {
    return this.linkedCount + this.others.size
  }

  link(rank: number, node: number): void {
    this.linked[rank] = node
    this.linkedCount++
  }

  /** Adds an entry that is linked to none; all that are have been. */
  add(value: string, node: number): void {
    this.others.set(value, node)
  }

  has(value: string): boolean {
    return this.get(value) !== undefined
  }

  isLinked(rank: number): boolean {
    return (this.linked[rank] ?? -1) >= 0
  }

  get(value: string): number | undefined {
    const node = this.linked[this.first.get(value) ?? -1] ?? -1
    return node >= 0 ? node : this.others.get(value)
  }

  *values(): Iterable<string> {
    for (let rank = 0; rank < this.linked.length; rank++)
      if (this.isLinked(rank)) yield this.first.valueAt(rank)
    yield* this.others.keys()
  }

  valueAt(rank: number): string {
    this.known ??= [...this.values()]
    return this.known[rank] ?? ''
  }
}
