import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { hashOf, identityText, PlainIdentity } from './expression.ts'

/** Which entry has an identity: its rank among all of them. */
export interface Ranks {
  get(value: string): number | undefined
}

/**
 * The entries of one document by their identity, where each has one of its own. Identities are kept as
 * places in the source, since it is strings for many thousands of them that would take the time: a hash
 * table with open addressing.
 */
export class IdentityTable implements Ranks {
  size = 0
  /** What stands at a hash: a rank and one, or 0 for nothing. */
  private readonly slots: Int32Array
  private readonly hashes: Int32Array
  private readonly starts: Int32Array
  private readonly ends: Int32Array
  /** By rank, identities that do not stand in the source as they are. */
  private readonly decoded = new Map<number, string>()
  private readonly plain = new PlainIdentity()

  /** @param most how many entries there are at most */
  constructor(
    private readonly doc: Doc,
    private readonly identity: IdentityExpression,
    most: number,
  ) {
    this.slots = new Int32Array(2 ** Math.ceil(Math.log2(2 * most + 2)))
    this.hashes = new Int32Array(most)
    this.starts = new Int32Array(most)
    this.ends = new Int32Array(most)
  }

  /** Adds an entry behind the others; false where it has no identity, or one that is taken. */
  add(entry: number): boolean {
    const { doc, plain } = this
    if (plain.read(doc, entry, this.identity))
      return this.put(doc.tree.source, plain.start, plain.end, plain.hash)
    const value = identityText(doc, entry, this.identity)
    if (value === undefined || !this.put(value, 0, value.length, hashOf(value))) return false
    this.decoded.set(this.size - 1, value)
    return true
  }

  get(value: string): number | undefined {
    const rank = (this.slots[this.slotOf(value, 0, value.length, hashOf(value))] ?? 0) - 1
    return rank < 0 ? undefined : rank
  }

  valueAt(rank: number): string {
    return this.decoded.get(rank) ?? this.doc.tree.source.slice(this.starts[rank], this.ends[rank])
  }

  private put(text: string, start: number, end: number, hash: number): boolean {
    const slot = this.slotOf(text, start, end, hash)
    if (this.slots[slot] !== 0) return false
    const rank = this.size++
    this.slots[slot] = rank + 1
    this.hashes[rank] = hash
    this.starts[rank] = start
    this.ends[rank] = end
    return true
  }

  /** The slot of the identity that stands in a text, or the one where it would be put. */
  private slotOf(text: string, start: number, end: number, hash: number): number {
    const { slots, hashes } = this
    const mask = slots.length - 1
    let slot = hash & mask
    for (;;) {
      const rank = (slots[slot] ?? 0) - 1
      if (rank < 0) return slot
      if (hashes[rank] === hash && text.slice(start, end) === this.valueAt(rank)) return slot
      slot = (slot + 1) & mask
    }
  }
}

/** The ranks that some of the entries have among themselves. */
export class RanksOfSome implements Ranks {
  /**
   * @param all the ranks among all entries
   * @param some for each entry its rank among some, or -1
   */
  constructor(
    private readonly all: Ranks,
    private readonly some: Int32Array,
  ) {}

  get(value: string): number | undefined {
    const rank = this.some[this.all.get(value) ?? -1] ?? -1
    return rank < 0 ? undefined : rank
  }
}
