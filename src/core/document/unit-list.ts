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
  /** Offsets after the opening and before the closing. */
  readonly openEnd: number
  readonly closeStart: number
  private readonly parts: UnitParts

  constructor(tree: Tree, parts: UnitParts) {
    this.tree = tree
    this.openEnd = parts.openEnd
    this.closeStart = parts.closeStart
    this.parts = parts
  }

  get length(): number {
    return this.parts.node.length
  }

  /** The nodes of all units, in their order. */
  get nodes(): readonly number[] {
    return this.parts.node
  }

  /** The unit's node in the tree; of a run its first. */
  node(unit: number): number {
    return this.parts.node[unit] ?? noUnit(unit)
  }

  /** The last node of the unit: of a block of comments its last comment, else the unit's node. */
  last(unit: number): number {
    return this.parts.last?.get(unit) ?? this.node(unit)
  }

  /** The offset after the unit's node, or after the last of several. */
  nodeEnd(unit: number): number {
    return this.tree.end(this.last(unit))
  }

  start(unit: number): number {
    return this.parts.start[unit] ?? noUnit(unit)
  }

  /** Where the indentation of the unit begins: behind the last line end before its own text, or at its start. */
  indentStart(unit: number): number {
    const start = this.start(unit)
    let at = this.own(unit)
    while (at > start && !isLineEnd(this.tree.source.charCodeAt(at - 1))) at--
    return at
  }

  /** Where the comments that belong to the node begin; the node's own start where there are none. */
  own(unit: number): number {
    return this.parts.own[unit] ?? noUnit(unit)
  }

  /** Offset of the separator, or -1. */
  separator(unit: number): number {
    return this.parts.separator[unit] ?? noUnit(unit)
  }

  end(unit: number): number {
    return this.parts.end[unit] ?? noUnit(unit)
  }

  /** The run that the unit stands for; undefined where it is one entry. */
  runOf(unit: number): EntryRun | undefined {
    return this.parts.runs?.get(unit)
  }

  /** Whether the unit is a block of comments that belongs to no entry. */
  isComment(unit: number): boolean {
    return this.tree.kind(this.node(unit)) === Kind.Comment && !this.isDormant(unit)
  }

  /** Whether the unit is an entry that stands in comments. */
  isDormant(unit: number): boolean {
    return this.parts.dormant?.has(unit) === true
  }

  /** Whether the unit begins at the start of a line. */
  startsLine(unit: number): boolean {
    const start = this.start(unit)
    return start === 0 || isLineEnd(this.tree.source.charCodeAt(start - 1))
  }

  /** The blanks between the start of the unit's first line and what stands on it. */
  indent(unit: number): string {
    const { source } = this.tree
    const from = this.own(unit)
    let at = from
    while (at > this.start(unit) && !isLineEnd(source.charCodeAt(at - 1))) at--
    return source.slice(at, from)
  }
}

/** The node of a unit in a list that has to be there. */
export function nodeOf(list: UnitList | undefined, unit: number): number {
  return list?.node(unit) ?? noUnit(unit)
}

function noUnit(unit: number): never {
  throw new RangeError(`the container has no unit ${unit}`)
}

/** Entries of one container, one behind the other, that are one unit. */
export interface EntryRun extends NodeRange {
  /** The same for the same run in every document. */
  id: number
}

export interface UnitParts {
  openEnd: number
  closeStart: number
  node: number[]
  start: number[]
  own: number[]
  separator: number[]
  end: number[]
  /** Units that stand for runs of entries. */
  runs?: Map<number, EntryRun>
  /** The last nodes of units that have several: blocks of comments. */
  last?: Map<number, number>
  /** Units that are entries in comments. */
  dormant?: Set<number>
}

/** What is to be one unit, though it has several nodes or is a comment. */
export interface Joined {
  /** Entries that are to be one unit, in their order. */
  runs?: readonly EntryRun[] | undefined
  /** Comments that hold entries, by the first of each: such a comment is a unit like an entry. */
  dormant?: ReadonlyMap<number, NodeRange> | undefined
}

/** Siblings, from the first to the last. */
export interface NodeRange {
  first: number
  last: number
}

/** The units of an element's attributes: blanks and the attribute. */
export function attributeUnits(tree: Tree, element: number): UnitList {
  const parts = emptyParts(tree.nameEnd(element))
  const stop = tree.next(element)
  let at = parts.openEnd
  for (let node = element + 1; node < stop && tree.kind(node) === Kind.Attribute; node++) {
    parts.node.push(node)
    parts.start.push(at)
    parts.own.push(tree.start(node))
    parts.separator.push(-1)
    at = tree.end(node)
    parts.end.push(at)
  }
  parts.closeStart = at
  return new UnitList(tree, parts)
}

/** The offset after an element's last attribute, or after its name where it has none. */
export function attributesEnd(tree: Tree, element: number): number {
  const last = firstContent(tree, element) - 1
  return last > element ? tree.end(last) : tree.nameEnd(element)
}

/**
 * The units of what a container holds, attributes aside.
 *
 * @param separator the mark between entries, or ''
 * @param joined what is to be one unit
 */
export function contentUnits(
  tree: Tree,
  container: number,
  separator: string,
  joined: Joined = {},
): UnitList {
  return new UnitTiler(tree, container, separator, joined).tile()
}

function emptyParts(openEnd: number): UnitParts {
  return { openEnd, closeStart: openEnd, node: [], start: [], own: [], separator: [], end: [] }
}

/** Index of the container's first child that is no attribute; the node after the container where there is none. */
export function firstContent(tree: Tree, container: number): number {
  const stop = tree.next(container)
  let node = container + 1
  while (node < stop && tree.kind(node) === Kind.Attribute) node++
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
  /** The run that comes next. */
  private run = 0
  /** The code unit of the separator, or -1. */
  private readonly separatorCode: number

  constructor(
    private readonly tree: Tree,
    private readonly container: number,
    separator: string,
    private readonly joined: Joined,
  ) {
    this.separatorCode = separator === '' ? -1 : separator.charCodeAt(0)
    const bodyStart = tree.bodyStart(container)
    this.parts = emptyParts(bodyStart)
    this.bodyEnd = tree.bodyEnd(container)
    this.nodeEnd = bodyStart
    this.at = bodyStart
  }

  tile(): UnitList {
    const { tree, parts } = this
    const stop = tree.next(this.container)
    let node = this.opening(firstContent(tree, this.container), stop)
    for (; node < stop; node = tree.next(node)) {
      const start = tree.start(node)
      this.takeSeparator(start)
      const dormant = this.joined.dormant?.get(node)
      if (dormant !== undefined && !this.trails(start)) node = this.dormantEntry(dormant, stop)
      else if (tree.kind(node) !== Kind.Comment) {
        this.entry(node, this.nextStart(node, stop))
        node = this.restOfRun(node, stop)
      } else if (!this.trails(start)) this.pending.push(node)
      else this.extend(tree.end(node), this.nextStart(node, stop))
      this.nodeEnd = tree.end(node)
    }
    this.takeSeparator(this.bodyEnd)
    this.blocks(this.pending.length, this.bodyEnd)
    parts.closeStart = this.at
    return new UnitList(tree, parts)
  }

  /** Lets the unit that begins with a node reach over the run that it is the first of; gives the last node. */
  private restOfRun(node: number, stop: number): number {
    const run = this.joined.runs?.[this.run]
    if (run?.first !== node) return node
    this.run++
    const { parts } = this
    parts.runs ??= new Map<number, EntryRun>()
    parts.runs.set(parts.node.length - 1, run)
    this.extend(this.tree.end(run.last), this.nextStart(run.last, stop))
    return run.last
  }

  /** A unit that is an entry in comments; gives the last of them. */
  private dormantEntry({ first, last }: NodeRange, stop: number): number {
    const { parts } = this
    this.entry(first, this.nextStart(first, stop))
    parts.dormant ??= new Set<number>()
    parts.dormant.add(parts.node.length - 1)
    if (last !== first) this.reach(last, this.nextStart(last, stop))
    return last
  }

  /** Lets the last unit reach over its nodes up to the last one. */
  private reach(last: number, limit: number): void {
    const { parts } = this
    parts.last ??= new Map<number, number>()
    parts.last.set(parts.node.length - 1, last)
    this.extend(this.tree.end(last), limit)
  }

  private nextStart(node: number, stop: number): number {
    const next = this.tree.next(node)
    return next < stop ? this.tree.start(next) : this.bodyEnd
  }

  /** Comments on the line of the opening belong to it, and the line end where nothing else stands there. */
  private opening(first: number, stop: number): number {
    const { tree, parts } = this
    if (tree.kind(this.container) === Kind.Document) return first
    let node = first
    let at = this.at
    while (node < stop && tree.kind(node) === Kind.Comment && this.sameLine(at, tree.start(node))) {
      at = tree.end(node)
      node = tree.next(node)
    }
    const limit = node < stop ? tree.start(node) : this.bodyEnd
    const lineStart = skipToLineStart(tree.source, at, limit)
    if (lineStart === at && node === first) return first
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
    let own = tree.start(node)
    let first = pending.length
    for (let i = first - 1; i >= 0; i--) {
      const comment = pending[i] ?? noUnit(i)
      if (countLineEnds(tree.source, tree.end(comment), own) > 1) break
      first = i
      own = tree.start(comment)
    }
    this.blocks(first, own)
    this.forgetPending()
    this.unit(node, own, limit)
  }

  /** The first of the pending comments as blocks: those between which no blank line stands are one unit. */
  private blocks(count: number, limit: number): void {
    const { tree, pending } = this
    for (let i = 0; i < count; i++) {
      const first = pending[i] ?? noUnit(i)
      let last = first
      let next = pending[i + 1]
      while (i + 1 < count && next !== undefined && this.areOneBlock(last, next)) {
        last = next
        next = pending[++i + 1]
      }
      const end = i + 1 < count && next !== undefined ? tree.start(next) : limit
      this.unit(first, tree.start(first), last === first ? end : tree.start(first + 1))
      if (last !== first) this.reach(last, end)
    }
  }

  private areOneBlock(comment: number, next: number): boolean {
    const { tree } = this
    return countLineEnds(tree.source, tree.end(comment), tree.start(next)) < 2
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
    this.extend(this.tree.end(node), limit)
  }
}
