import { countLineEnds, isLineEnd, skipBlanks, skipToLineStart } from './characters.ts'
import { Kind } from './kind.ts'
import type { Tree } from './tree.ts'

/**
 * The inside of a container cut into units that can be inserted, removed and moved. A unit is an entry
 * (or a comment that belongs to none) with all that goes with it:
 *
 *     [start    own          node     separator    end)
 *      blanks   own comments the node   ,   comment on the same line, line end
 *
 * Before the first unit stands the opening `[openStart, openEnd)`, after the last one the closing
 * `[closeStart, …)`; together they cover every code unit of the container once.
 */
export class UnitList {
  readonly tree: Tree
  readonly openEnd: number
  readonly closeStart: number
  /** Index of each unit's node in the tree. */
  readonly node: number[]
  readonly start: number[]
  /** Where the comments that belong to the node begin; the node's own start where there are none. */
  readonly own: number[]
  /** Offset of the separator, or -1. */
  readonly separator: number[]
  readonly end: number[]

  constructor(tree: Tree, parts: UnitParts) {
    this.tree = tree
    this.openEnd = parts.openEnd
    this.closeStart = parts.closeStart
    this.node = parts.node
    this.start = parts.start
    this.own = parts.own
    this.separator = parts.separator
    this.end = parts.end
  }

  get length(): number {
    return this.node.length
  }

  /** Whether the unit is a comment that belongs to no entry. */
  isComment(unit: number): boolean {
    return this.tree.kind[this.node[unit] ?? 0] === Kind.Comment
  }

  /** Whether the unit begins at the start of a line. */
  startsLine(unit: number): boolean {
    const start = this.start[unit] ?? 0
    return start === 0 || isLineEnd(this.tree.source.charCodeAt(start - 1))
  }

  /** The blanks between the start of the unit's first line and what stands on it. */
  indent(unit: number): string {
    const { source } = this.tree
    const from = this.own[unit] ?? 0
    let at = from
    while (at > (this.start[unit] ?? 0) && !isLineEnd(source.charCodeAt(at - 1))) at--
    return source.slice(at, from)
  }
}

export interface UnitParts {
  openEnd: number
  closeStart: number
  node: number[]
  start: number[]
  own: number[]
  separator: number[]
  end: number[]
}

/** The units of an element's attributes: blanks and the attribute. */
export function attributeUnits(tree: Tree, element: number): UnitList {
  const parts = emptyParts(tree.nameEnd[element] ?? 0)
  const stop = tree.next[element] ?? 0
  let at = parts.openEnd
  for (let node = element + 1; node < stop && tree.kind[node] === Kind.Attribute; node++) {
    parts.node.push(node)
    parts.start.push(at)
    parts.own.push(tree.start[node] ?? 0)
    parts.separator.push(-1)
    at = tree.end[node] ?? 0
    parts.end.push(at)
  }
  parts.closeStart = at
  return new UnitList(tree, parts)
}

/** The offset after an element's last attribute, or after its name where it has none. */
export function attributesEnd(tree: Tree, element: number): number {
  const last = firstContent(tree, element) - 1
  return (last > element ? tree.end[last] : tree.nameEnd[element]) ?? 0
}

/**
 * The units of what a container holds, attributes aside.
 *
 * @param separator the mark between entries, or ''
 * @param like the units of the container in the document from which this one's nodes were copied
 */
export function contentUnits(
  tree: Tree,
  container: number,
  separator: string,
  like?: UnitList,
): UnitList {
  return new UnitTiler(tree, container, separator, like).tile()
}

function emptyParts(openEnd: number): UnitParts {
  return { openEnd, closeStart: openEnd, node: [], start: [], own: [], separator: [], end: [] }
}

/** Index of the container's first child that is no attribute; `next[container]` where there is none. */
export function firstContent(tree: Tree, container: number): number {
  const stop = tree.next[container] ?? 0
  let node = container + 1
  while (node < stop && tree.kind[node] === Kind.Attribute) node++
  return node
}

class UnitTiler {
  private readonly parts: UnitParts
  private readonly bodyEnd: number
  /** Where the last node or separator ended, and where the last unit did. */
  private nodeEnd: number
  private at: number
  /** Comments that have been met and belong to no unit yet. */
  private readonly pending: number[] = []
  /** Up to which unit of the other document's list this one has come. */
  private cursor = 0
  /** The code unit of the separator, or -1. */
  private readonly separatorCode: number

  constructor(
    private readonly tree: Tree,
    private readonly container: number,
    separator: string,
    private readonly like: UnitList | undefined,
  ) {
    this.separatorCode = separator === '' ? -1 : separator.charCodeAt(0)
    const bodyStart = tree.bodyStart[container] ?? 0
    this.parts = emptyParts(bodyStart)
    this.bodyEnd = tree.bodyEnd[container] ?? 0
    this.nodeEnd = bodyStart
    this.at = bodyStart
  }

  tile(): UnitList {
    const { tree, parts } = this
    const stop = tree.next[this.container] ?? 0
    let node = this.opening(firstContent(tree, this.container), stop)
    for (; node < stop; node = tree.next[node] ?? stop) {
      const start = tree.start[node] ?? 0
      this.takeSeparator(start)
      if (tree.kind[node] !== Kind.Comment) {
        this.entry(node, this.nextStart(node, stop))
        node = this.copyFollowing(node)
      } else if (!this.trails(start)) this.pending.push(node)
      else this.extend(tree.end[node] ?? 0, this.nextStart(node, stop))
      this.nodeEnd = tree.end[node] ?? 0
    }
    this.takeSeparator(this.bodyEnd)
    for (const comment of this.pending) this.unit(comment, tree.start[comment] ?? 0, this.bodyEnd)
    parts.closeStart = this.at
    return new UnitList(tree, parts)
  }

  /**
   * Takes over the units that follow an entry in the list of the document that it was copied from, as far
   * as they were copied with it; gives the node of the last one. What stands before the first and behind
   * the last node of a copy may be other than there.
   */
  private copyFollowing(node: number): number {
    const { like, tree, parts } = this
    const origin = like === undefined ? -1 : tree.originOf(node, like.tree)
    if (like === undefined || origin < 0) return node
    while ((like.node[this.cursor] ?? Infinity) < origin) this.cursor++
    const first = this.cursor
    if (like.node[first] !== origin) return node
    const further = node - origin
    const stop = tree.copyStop(node) - further
    let last = first
    while ((like.node[last + 2] ?? Infinity) < stop) last++
    while (last > first && like.isComment(last)) last--
    if (last === first) return node
    const shift = (tree.start[node] ?? 0) - (like.tree.start[origin] ?? 0)
    const shifted = (offset = -1): number => (offset < 0 ? -1 : offset + shift)
    const entry = parts.node.length - 1
    parts.separator[entry] = shifted(like.separator[first])
    parts.end[entry] = shifted(like.end[first])
    for (let unit = first + 1; unit <= last; unit++) {
      parts.node.push((like.node[unit] ?? 0) + further)
      parts.start.push(shifted(like.start[unit]))
      parts.own.push(shifted(like.own[unit]))
      parts.separator.push(shifted(like.separator[unit]))
      parts.end.push(shifted(like.end[unit]))
    }
    this.at = shifted(like.end[last])
    this.cursor = last
    return (like.node[last] ?? 0) + further
  }

  private nextStart(node: number, stop: number): number {
    const next = this.tree.next[node] ?? stop
    return next < stop ? (this.tree.start[next] ?? 0) : this.bodyEnd
  }

  /** What stands on the line of the opening belongs to it, where nothing but comments does. */
  private opening(first: number, stop: number): number {
    const { tree, parts } = this
    if (tree.kind[this.container] === Kind.Document) return first
    let node = first
    let at = this.at
    while (
      node < stop &&
      tree.kind[node] === Kind.Comment &&
      this.sameLine(at, tree.start[node] ?? 0)
    ) {
      at = tree.end[node] ?? 0
      node = tree.next[node] ?? stop
    }
    const limit = node < stop ? (tree.start[node] ?? 0) : this.bodyEnd
    const lineStart = skipToLineStart(tree.source, at, limit)
    if (lineStart === at) {
      const sticks = node > first && node >= stop
      if (!sticks) return first
    }
    this.nodeEnd = at
    this.at = lineStart
    parts.openEnd = lineStart
    return node
  }

  private sameLine(from: number, to: number): boolean {
    return countLineEnds(this.tree.source, from, to) === 0
  }

  /** Whether a comment stands on the line where the last unit's node ended. */
  private trails(start: number): boolean {
    if (this.parts.node.length === 0 || this.pending.length > 0) return false
    const endsLine = isLineEnd(this.tree.source.charCodeAt(this.nodeEnd - 1))
    return !endsLine && this.sameLine(this.nodeEnd, start)
  }

  /** Finds the separator between the last node and `before`; comments before it belong to that unit. */
  private takeSeparator(before: number): void {
    if (this.separatorCode < 0) return
    const { source } = this.tree
    const found = skipBlanks(source, this.nodeEnd, before)
    if (found >= before || source.charCodeAt(found) !== this.separatorCode) return
    const { parts } = this
    this.forgetPending()
    parts.separator[parts.separator.length - 1] = found
    this.extend(found + 1, before)
    this.nodeEnd = found + 1
  }

  /** Lets the last unit end at `end`, or after the line end where nothing else stands on the line. */
  private extend(end: number, limit: number): void {
    const endsLine = end > 0 && isLineEnd(this.tree.source.charCodeAt(end - 1))
    this.at = endsLine ? end : skipToLineStart(this.tree.source, end, limit)
    this.parts.end[this.parts.end.length - 1] = this.at
  }

  private entry(node: number, limit: number): void {
    const { tree, pending } = this
    let own = tree.start[node] ?? 0
    let first = pending.length
    while (
      first > 0 &&
      countLineEnds(tree.source, tree.end[pending[first - 1] ?? 0] ?? 0, own) <= 1
    ) {
      first--
      own = tree.start[pending[first] ?? 0] ?? 0
    }
    for (let i = 0; i < first; i++) {
      const next = i + 1 < pending.length ? tree.start[pending[i + 1] ?? 0] : own
      this.unit(pending[i] ?? 0, tree.start[pending[i] ?? 0] ?? 0, next ?? own)
    }
    this.forgetPending()
    this.unit(node, own, limit)
  }

  /** To set a length costs more than to ask for it, and mostly nothing is pending. */
  private forgetPending(): void {
    if (this.pending.length > 0) this.pending.length = 0
  }

  private unit(node: number, own: number, limit: number): void {
    const { parts } = this
    parts.node.push(node)
    parts.start.push(this.at)
    parts.own.push(own)
    parts.separator.push(-1)
    parts.end.push(0)
    this.extend(this.tree.end[node] ?? 0, limit)
  }
}
