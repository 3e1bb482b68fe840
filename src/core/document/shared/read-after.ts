import { Kind } from '../kind.ts'
import { MAX_DEPTH } from '../limits.ts'
import type { Thresholds } from '../thresholds.ts'
import type { Tree } from '../tree.ts'

/** So many entries are compared at once at most. */
const MOST_AT_ONCE = 1024
/** So many entries ahead it is looked for where the two documents meet again. */
const LOOK_AHEAD = 8

// One document is read at a time, so that all can use these; each level is set when it is entered.
const CURSOR = new Int32Array(MAX_DEPTH + 2)
const STOP = new Int32Array(MAX_DEPTH + 2)
/** How often in a row nothing was found at each depth. */
const MISSES = new Int32Array(MAX_DEPTH + 2)

/** A document that another one is read after. */
export interface ReadBefore {
  /** Its tree: it was read without a problem, in the same dialect. */
  tree: Tree
  thresholds: Thresholds
}

/**
 * Reads a document after another of the same kind: where an entry has the text of one that the other
 * document has at this place, its nodes are copied instead of scanned. Most of a release is as it was in
 * the release before, so most of it is scanned once.
 *
 * For each depth a cursor tells which node of the other document is awaited next. A wrong cursor costs
 * time and nothing else: what is copied has been compared.
 */
export class ReadAfter {
  private readonly cursor = CURSOR
  private readonly stop = STOP
  private readonly misses = MISSES
  private readonly known: Tree
  private readonly leastEntry: number
  private readonly leastInside: number

  /** @param tree the tree to fill */
  constructor(
    { tree: known, thresholds }: ReadBefore,
    private readonly tree: Tree,
  ) {
    this.known = known
    this.leastEntry = thresholds.readAfterEntry
    this.leastInside = thresholds.readAfterInside
    this.enter(rootOf(known), 1)
  }

  /**
   * Copies the entries that begin at `at` inside `depth` open containers, as far as the other document has
   * the same; gives the offset after them, or -1 where there is one to be scanned. The root is always scanned.
   */
  copyAt(at: number, depth: number): number {
    if (depth === 0) return -1
    const from = this.cursor[depth] ?? -1
    if (from < 0) {
      this.cursor[depth + 1] = -1
      return -1
    }
    const { known } = this
    const stop = this.stop[depth] ?? from
    const patience = (this.misses[depth] ?? 0) > LOOK_AHEAD ? 1 : LOOK_AHEAD
    let tried = 0
    for (let node = from; node < stop && tried < patience; node = known.next(node)) {
      if (isWords(known.kind(node))) continue
      tried++
      if (!this.isSame(node, at)) continue
      const last = this.lastSame(node, stop, at)
      const after = known.next(last)
      this.tree.copy(known, node, after, at)
      this.cursor[depth] = after
      this.misses[depth] = 0
      return at + known.end(last) - known.start(node)
    }
    this.miss(from, stop, at, depth)
    return -1
  }

  private isSame(node: number, at: number): boolean {
    const { known, tree } = this
    const start = known.start(node)
    const length = known.end(node) - start
    if (length < this.leastEntry || length === 0 || at + length > tree.source.length) return false
    const last = known.source.charCodeAt(start + length - 1)
    if (!ENDS_ITSELF.has(last) || tree.source.charCodeAt(at + length - 1) !== last) return false
    return known.source.slice(start, start + length) === tree.source.slice(at, at + length)
  }

  /**
   * The last of the entries that follow `node` here as they do there, with all that stands between them:
   * looked for in steps that grow as long as they succeed.
   */
  private lastSame(node: number, stop: number, at: number): number {
    const shift = at - this.known.start(node)
    let last = node
    let step = 1
    for (let grows = true; step > 0;) {
      const next = this.entryAfter(last, stop, step)
      if (next > last && this.isSameUpTo(last, next, shift)) last = next
      else grows = false
      step = grows ? Math.min(step * 2, MOST_AT_ONCE) : step >> 1
    }
    return last
  }

  /** The entry that stands so many behind `node`, or the last one before `stop`; `node` where there is none. */
  private entryAfter(node: number, stop: number, count: number): number {
    const { known } = this
    let found = node
    let left = count
    for (let each = known.next(node); each < stop && left > 0; each = known.next(each)) {
      if (isWords(known.kind(each))) continue
      found = each
      left--
    }
    return found
  }

  /** Whether what stands behind `last` up to the end of `next` stands here, too. */
  private isSameUpTo(last: number, next: number, shift: number): boolean {
    const { known, tree } = this
    const [from, to] = [known.end(last), known.end(next)]
    const end = known.source.charCodeAt(to - 1)
    if (to + shift > tree.source.length || !ENDS_ITSELF.has(end)) return false
    if (tree.source.charCodeAt(to + shift - 1) !== end) return false
    return known.source.slice(from, to) === tree.source.slice(from + shift, to + shift)
  }

  /** The entry is another: inside it the one is awaited that begins alike, else the next. */
  private miss(from: number, stop: number, at: number, depth: number): void {
    const { known } = this
    const misses = (this.misses[depth] ?? 0) + 1
    this.misses[depth] = misses
    let guess = -1
    let tried = 0
    for (let node = from; node < stop && tried < 2; node = known.next(node)) {
      if (isWords(known.kind(node))) continue
      tried++
      if (!this.beginsAlike(node, at)) continue
      guess = node
      break
    }
    if (guess >= 0) this.cursor[depth] = known.next(guess)
    else if (misses > LOOK_AHEAD && from < stop) this.cursor[depth] = known.next(from)
    this.enter(guess, depth + 1)
  }

  /** Awaits the inside of a node; nothing where that is -1. */
  private enter(node: number, depth: number): void {
    const { known } = this
    this.misses[depth] = 0
    this.cursor[depth] = -1
    if (node < 0 || known.end(node) - known.start(node) < this.leastInside) return
    const container = known.kind(node) === Kind.Member ? node + 1 : node
    const stop = known.next(container)
    let first = container + 1
    while (first < stop && known.kind(first) === Kind.Attribute) first++
    this.cursor[depth] = first
    this.stop[depth] = stop
  }

  /** Whether the text at `at` begins as the node does: with the same tag, name or first member. */
  private beginsAlike(node: number, at: number): boolean {
    const { known, tree } = this
    const start = known.start(node)
    const first = node + 1
    const isFilled = known.kind(node) === Kind.Object && first < known.next(node)
    const end = isFilled ? known.end(first) : known.bodyStart(node)
    return known.source.slice(start, end) === tree.source.slice(at, at + end - start)
  }
}

function isWords(kind: Kind): boolean {
  return kind === Kind.Text || kind === Kind.Comment
}

/** The root element or value: what is neither a comment nor an instruction. */
function rootOf(tree: Tree): number {
  const stop = tree.next(0)
  for (let node = 1; node < stop; node = tree.next(node)) {
    const kind = tree.kind(node)
    if (kind !== Kind.Comment && kind !== Kind.Instruction) return node
  }
  return -1
}

/** What ends with one of these ends there whatever follows: `>`, `}`, `]`, `"`. */
const ENDS_ITSELF = new Set([62, 125, 93, 34])
