import { Kind } from './kind.ts'
import { MANY_ENTRIES, MAX_DEPTH } from './limits.ts'
import type { Tree } from './tree.ts'

/** What is shorter is read as fast as it is compared, but in a big container, where others follow it. */
export const LEAST_ECHOED = 64
const LEAST_AMONG_MANY = 16
/** What is shorter is scanned whole where it is not the same as a whole. */
const LEAST_ENTERED = 512
/** Of a shorter document all that it shares with the other is copied. */
const LEAST_SOURCE = 1 << 16
/** So many entries are compared at once at most. */
const MOST_AT_ONCE = 1024
/** So many entries ahead it is looked for where the two documents meet again. */
const LOOK_AHEAD = 8

// One document is read at a time, so that all can use these; each level is set when it is entered.
const CURSOR = new Int32Array(MAX_DEPTH + 2)
const STOP = new Int32Array(MAX_DEPTH + 2)
/** How often in a row nothing was found at each depth. */
const MISSES = new Int32Array(MAX_DEPTH + 2)
/** Whether at each depth what is shared is left out, and whether the container there is a big one. */
const LEAVES_OUT = new Uint8Array(MAX_DEPTH + 2)
const IS_BIG = new Uint8Array(MAX_DEPTH + 2)

/**
 * Reads a document after another of the same kind: where an entry has the text of one that the other
 * document has at this place, its nodes are copied instead of scanned, or left out (`Tree.with` puts
 * them in). Most of a release is as it was in the release before, so most of it is scanned once.
 *
 * Of a long document entries are left out down to those of the first big container on the way from the
 * root; what such an entry holds is there where the entry is.
 *
 * For each depth a cursor tells which node of the other document is awaited next. A wrong cursor costs
 * time and nothing else: what is copied has been compared.
 */
export class Echo {
  private readonly cursor = CURSOR
  private readonly stop = STOP
  private readonly misses = MISSES
  private readonly leavesOut = LEAVES_OUT
  private readonly isBig = IS_BIG

  /**
   * @param known a tree that was read without a problem, in the same dialect
   * @param tree the tree to fill
   */
  constructor(
    private readonly known: Tree,
    private readonly tree: Tree,
  ) {
    this.leavesOut[0] = tree.source.length >= LEAST_SOURCE ? 1 : 0
    this.isBig[0] = 0
    this.enter(rootOf(known), 1)
  }

  /**
   * Copies the entries that begin at `at` inside `depth` open containers, as far as the other document has
   * the same; gives the offset after them, or -1 where there is one to be scanned. The root is always scanned.
   */
  take(at: number, depth: number): number {
    if (depth === 0) return -1
    const from = this.cursor[depth] ?? -1
    if (from < 0) {
      this.cursor[depth + 1] = -1
      return -1
    }
    const stop = this.stop[depth] ?? 0
    const patience = (this.misses[depth] ?? 0) > LOOK_AHEAD ? 1 : LOOK_AHEAD
    const least = this.isBig[depth] === 1 ? LEAST_AMONG_MANY : LEAST_ECHOED
    let tried = 0
    for (let node = from; node < stop && tried < patience; node = this.known.next[node] ?? stop) {
      const kind = this.known.kind[node]
      if (kind === Kind.Text || kind === Kind.Comment) continue
      tried++
      if (!this.isSame(node, at, least)) continue
      const last = this.lastSame(node, stop, at)
      const after = this.known.next[last] ?? stop
      if (this.leavesOut[depth] === 1) this.tree.leaveOut(this.known, node, after, at)
      else this.tree.copy(this.known, node, after, at)
      this.cursor[depth] = after
      this.misses[depth] = 0
      return at + (this.known.end[last] ?? 0) - (this.known.start[node] ?? 0)
    }
    this.miss(from, stop, at, depth)
    return -1
  }

  /** Whether entries of the other document are looked for inside `depth` open containers. */
  awaits(depth: number): boolean {
    return (this.cursor[depth] ?? -1) >= 0
  }

  private isSame(node: number, at: number, least: number): boolean {
    const { known, tree } = this
    const start = known.start[node] ?? 0
    const length = (known.end[node] ?? 0) - start
    if (length < least || at + length > tree.source.length) return false
    const last = known.source.charCodeAt(start + length - 1)
    if (!ENDS_ITSELF.has(last) || tree.source.charCodeAt(at + length - 1) !== last) return false
    return known.source.slice(start, start + length) === tree.source.slice(at, at + length)
  }

  /**
   * The last of the entries that follow `node` here as they do there, with all that stands between them:
   * looked for in steps that grow as long as they succeed.
   */
  private lastSame(node: number, stop: number, at: number): number {
    const shift = at - (this.known.start[node] ?? 0)
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
    const { kind, next } = this.known
    let found = node
    let left = count
    for (let each = next[node] ?? stop; each < stop && left > 0; each = next[each] ?? stop) {
      if (kind[each] === Kind.Text || kind[each] === Kind.Comment) continue
      found = each
      left--
    }
    return found
  }

  /** Whether what stands behind `last` up to the end of `next` stands here, too. */
  private isSameUpTo(last: number, next: number, shift: number): boolean {
    const { known, tree } = this
    const [from, to] = [known.end[last] ?? 0, known.end[next] ?? 0]
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
    for (let node = from; node < stop && tried < 2; node = known.next[node] ?? stop) {
      const kind = known.kind[node]
      if (kind === Kind.Text || kind === Kind.Comment) continue
      tried++
      if (!this.beginsAlike(node, at)) continue
      guess = node
      break
    }
    if (guess >= 0) this.cursor[depth] = known.next[guess] ?? stop
    else if (misses > LOOK_AHEAD) this.cursor[depth] = known.next[from] ?? stop
    this.enter(guess, depth + 1)
  }

  /** Awaits the inside of a node; nothing where that is -1. */
  private enter(node: number, depth: number): void {
    const { known } = this
    this.misses[depth] = 0
    this.cursor[depth] = -1
    const leavesOut = this.leavesOut[depth - 1] === 1 && this.isBig[depth - 1] === 0
    this.leavesOut[depth] = leavesOut ? 1 : 0
    if (node < 0 || (known.end[node] ?? 0) - (known.start[node] ?? 0) < LEAST_ENTERED) return
    const isMember = known.kind[node] === Kind.Member
    const container = isMember ? node + 1 : node
    let first = container + 1
    const stop = known.next[container] ?? 0
    while (first < stop && known.kind[first] === Kind.Attribute) first++
    this.cursor[depth] = first
    this.stop[depth] = stop
    this.isBig[depth] = leavesOut && this.hasMany(first, stop) ? 1 : 0
  }

  private hasMany(first: number, stop: number): boolean {
    const { kind, next } = this.known
    let count = 0
    for (let node = first; node < stop && count < MANY_ENTRIES; node = next[node] ?? stop)
      if (kind[node] !== Kind.Text && kind[node] !== Kind.Comment) count++
    return count === MANY_ENTRIES
  }

  /** Whether the text at `at` begins as the node does: with the same tag, name or first member. */
  private beginsAlike(node: number, at: number): boolean {
    const { known, tree } = this
    const start = known.start[node] ?? 0
    let end = known.bodyStart[node] ?? 0
    const first = node + 1
    if (known.kind[node] === Kind.Object && first < (known.next[node] ?? 0))
      end = known.end[first] ?? 0
    return known.source.slice(start, end) === tree.source.slice(at, at + end - start)
  }
}

/** How many nodes a document has about that is read after another, if any: of a long one most are left out. */
export function nodesAfter(known: Tree | undefined, source: string): number | undefined {
  if (known === undefined || source.length < LEAST_SOURCE) return known?.length
  return known.length / 8
}

/** The root element or value: what is neither a comment nor an instruction. */
function rootOf(tree: Tree): number {
  const stop = tree.next[0] ?? 0
  for (let node = 1; node < stop; node = tree.next[node] ?? stop) {
    const kind = tree.kind[node]
    if (kind !== Kind.Comment && kind !== Kind.Instruction) return node
  }
  return -1
}

/** What ends with one of these ends there whatever follows: `>`, `}`, `]`, `"`. */
const ENDS_ITSELF = new Set([62, 125, 93, 34])
