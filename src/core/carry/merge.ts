import { Kind } from '../document/kind.ts'
import { countLineEnds, skipBlanks } from '../document/characters.ts'
import type { Span } from '../document/problem.ts'
import type { UnitList } from '../document/unit-list.ts'
import { attributeUnits, contentUnits } from '../document/unit-list.ts'
import { canonical, sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import type { Identities } from '../identity/identities.ts'
import { placeOf } from '../identity/place.ts'
import type { Side, Triple } from '../identity/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../identity/sides.ts'
import { indentStep } from './indent.ts'
import type { ChangeKind, ChangeSide, ConflictKind, Ledger, Types } from './ledger.ts'
import { ListMerge } from './list-merge.ts'
import { pick, pickSide } from './pick.ts'
import { decodedValue, jsonType, shownValue } from './values.ts'
import { Writer } from './writer.ts'

/** The node of one entry in old, new and mine; -1 where it is not there. */
export type Nodes = Triple<number>

/** Where in the file a merge is: the key so far, and the key without identities. */
export interface Where {
  key: string
  place: string
}

/**
 * The three-way merge of one document. Where two of three slices are equal the third is taken;
 * else it descends; at a leaf that both changed it notes a conflict, and mine stands.
 */
export class Merge {
  readonly writer: Writer
  /** Whether the last line written is a comment that belongs to no entry: what follows must not take it over. */
  endsInFreeComment = false
  /** One step of nesting in each document, and in the result. */
  readonly steps: Triple<string>
  readonly resultStep: string

  constructor(
    readonly docs: Triple<Doc>,
    /** Which of the documents there are: a file that both brought has no old. */
    readonly present: Triple<boolean>,
    readonly ledger: Ledger,
    readonly identities: Identities,
    /** What a made line end is. */
    readonly lineEnd: string,
  ) {
    this.writer = new Writer(docs)
    const steps = triple((side) => (present[side] ? indentStep(docs[side].tree) : undefined))
    this.resultStep = pick(steps) ?? '  '
    this.steps = triple((side) => steps[side] ?? this.resultStep)
  }

  /** Merges the whole documents; gives the text of the result. */
  run(): string {
    const nodes = triple((side) => (this.present[side] ? 0 : -1))
    this.node(nodes, { key: '', place: '' })
    return this.writer.text()
  }

  /** The text of a node in one of the documents. */
  slice(side: Side, nodes: Nodes): string | undefined {
    const node = nodes[side]
    return node < 0 ? undefined : this.docs[side].slice(node)
  }

  /** Merges one entry that new and mine have (old may lack it). */
  node(nodes: Nodes, where: Where): void {
    const [old, fresh, mine] = triple((side) => this.slice(side, nodes))
    if (fresh === mine) {
      this.whole(MINE, nodes)
      if (old !== mine) this.writer.muted(() => this.descend(nodes, where))
    } else if (old !== undefined && old === mine) {
      this.whole(NEW, nodes)
      this.writer.muted(() => this.descend(nodes, where))
    } else if (old !== undefined && old === fresh) {
      this.whole(MINE, nodes)
      this.writer.muted(() => this.descend(nodes, where))
    } else this.descend(nodes, where)
  }

  /** Writes one document's whole node. */
  private whole(side: Side, nodes: Nodes): void {
    const { tree } = this.docs[side]
    this.writer.slice(side, tree.start[nodes[side]] ?? 0, tree.end[nodes[side]] ?? 0)
    this.wrote(side, nodes[side])
  }

  /** Remembers whether what was written ends in a comment that belongs to no entry. */
  wrote(side: Side, node: number): void {
    if (this.writer.isMuted) return
    const { tree } = this.docs[side]
    const last = (tree.next[node] ?? 0) - 1
    const inSection =
      tree.kind[node] === Kind.Section &&
      tree.kind[last] === Kind.Comment &&
      countLineEnds(tree.source, tree.bodyStart[node] ?? 0, tree.start[last] ?? 0) > 0
    this.endsInFreeComment = tree.kind[node] === Kind.Comment || inSection
  }

  private descend(nodes: Nodes, where: Where): void {
    const [old, fresh, mine] = nodes
    const kind = this.docs[MINE].kind(mine)
    if (this.docs[NEW].kind(fresh) !== kind) this.shape(nodes, where)
    else if (old >= 0 && this.docs[OLD].kind(old) !== kind) this.reshaped(nodes, where)
    else this.alike(kind, nodes, where)
  }

  /** New and mine are of one kind that old was not: what they hold is new in both. */
  private reshaped(nodes: Nodes, where: Where): void {
    const [, fresh, mine] = nodes
    if (sameContent(this.docs[NEW], fresh, this.docs[MINE], mine)) {
      this.row('both', 'changed', nodes, where.key, MINE)
      this.whole(MINE, nodes)
      return
    }
    const leaf = this.docs[MINE].kind(mine) === Kind.Scalar
    if (leaf) this.conflict('two-values', nodes, where.key)
    if (leaf) this.whole(MINE, nodes)
    else this.alike(this.docs[MINE].kind(mine), [-1, fresh, mine], where)
  }

  private alike(kind: Kind, nodes: Nodes, where: Where): void {
    switch (kind) {
      case Kind.Element:
        this.element(nodes, where)
        break
      case Kind.Member:
        this.member(nodes, where)
        break
      case Kind.Document:
      case Kind.Section:
      case Kind.Object:
      case Kind.Array:
        this.container(nodes, where)
        break
      default:
        this.leaf(nodes, where)
    }
  }

  // Leaves

  private leaf(nodes: Nodes, where: Where): void {
    const starts = triple((side) => this.valueStart(side, nodes[side]))
    this.form(triple((side) => this.spanTo(side, nodes[side], starts[side])))
    const side = this.value(
      triple((each) => (nodes[each] < 0 ? undefined : canonical(this.docs[each], nodes[each]))),
      triple((each) => this.docs[each].tree.source.slice(starts[each], this.end(each, nodes[each]))),
      nodes,
      where.key,
    )
    this.writer.slice(side, starts[side], this.end(side, nodes[side]))
  }

  /** The stretch from a node's start to an offset in it; undefined where there is no node. */
  private spanTo(side: Side, node: number, end: number): Span | undefined {
    return node < 0 ? undefined : { start: this.start(side, node), end }
  }

  private start(side: Side, node: number): number {
    return this.docs[side].tree.start[node] ?? 0
  }

  private end(side: Side, node: number): number {
    return this.docs[side].tree.end[node] ?? 0
  }

  /** Where a leaf's value begins, quotes included: what stands before is its name and form. */
  private valueStart(side: Side, node: number): number {
    if (node < 0) return 0
    const { tree } = this.docs[side]
    if (tree.kind[node] === Kind.Attribute) return (tree.bodyStart[node] ?? 0) - 1
    if (tree.kind[node] === Kind.Property) return tree.bodyStart[node] ?? 0
    return tree.start[node] ?? 0
  }

  /**
   * Decides a value by its decoded forms; tells the ledger; gives the side whose text stands.
   * Where all are equal by value, their form is chosen like any other.
   */
  private value(
    values: Triple<string | undefined>,
    raw: Triple<string>,
    nodes: Nodes,
    key: string,
  ): Side {
    const [old, fresh, mine] = values
    if (fresh === mine) {
      if (old === undefined) this.row('both', 'added', nodes, key, MINE)
      else if (old !== mine) this.row('both', 'changed', nodes, key, MINE)
      return old === mine && raw[OLD] === raw[MINE] ? NEW : MINE
    }
    if (old !== undefined && old === mine) {
      this.row('vanilla', 'changed', nodes, key, NEW)
      return NEW
    }
    if (old !== undefined && old === fresh) this.row('mine', 'changed', nodes, key, MINE)
    else this.conflict(old === undefined ? 'two-new' : 'two-values', nodes, key)
    return MINE
  }

  /** A value here, a list or an entry there. */
  private shape(nodes: Nodes, where: Where): void {
    const same = (a: Side, b: Side): boolean => sameContent(this.docs[a], nodes[a], this.docs[b], nodes[b])
    if (nodes[OLD] >= 0 && same(OLD, MINE)) {
      this.row('vanilla', 'changed', nodes, where.key, NEW)
      this.whole(NEW, nodes)
      return
    }
    if (nodes[OLD] >= 0 && same(OLD, NEW)) this.row('mine', 'changed', nodes, where.key, MINE)
    else this.conflict('shape', nodes, where.key)
    this.whole(MINE, nodes)
  }

  // Containers

  private member(nodes: Nodes, where: Where): void {
    const values = triple((side) => (nodes[side] < 0 ? -1 : this.docs[side].memberValue(nodes[side])))
    this.form(triple((side) => this.spanTo(side, nodes[side], this.start(side, values[side]))))
    this.node(values, where)
  }

  private container(nodes: Nodes, where: Where): void {
    const lists = this.contentLists(nodes)
    const frames = triple((side) =>
      nodes[side] < 0 ? undefined : { start: this.start(side, nodes[side]), end: this.end(side, nodes[side]) },
    )
    new ListMerge(this, { nodes, lists, frames, where, kind: this.docs[MINE].kind(nodes[MINE]) }).run()
  }

  private contentLists(nodes: Nodes): Triple<UnitList | undefined> {
    return triple((side) => {
      const { tree, format } = this.docs[side]
      return nodes[side] < 0 ? undefined : contentUnits(tree, nodes[side], format.separator)
    })
  }

  // Elements

  private element(nodes: Nodes, where: Where): void {
    const nameSide = this.elementName(nodes, where)
    const attributes = triple((side) =>
      nodes[side] < 0 ? undefined : attributeUnits(this.docs[side].tree, nodes[side]),
    )
    new ListMerge(this, { nodes, lists: attributes, frames: undefined, where, kind: Kind.Attribute }).run()
    const tagEnds = triple((side) => attributes[side]?.closeStart ?? 0)
    this.elementContent(nodes, tagEnds, nameSide, where)
  }

  /** Writes `<name`; gives the side whose name stands. Names differ only in roots. */
  private elementName(nodes: Nodes, where: Where): Side {
    const names = triple((side) => (nodes[side] < 0 ? undefined : this.docs[side].name(nodes[side])))
    const [old, fresh, mine] = names
    const side = pickSide(names) ?? MINE
    if (fresh === mine && old !== undefined && old !== mine) this.rootRow('both', names, where)
    else if (fresh !== mine && old === mine) this.rootRow('vanilla', names, where)
    else if (fresh !== mine && old === fresh) this.rootRow('mine', names, where)
    else if (fresh !== mine) this.conflict(old === undefined ? 'two-new' : 'two-values', nodes, where.key)
    this.writer.slice(side, this.start(side, nodes[side]), this.docs[side].tree.nameEnd[nodes[side]] ?? 0)
    return side
  }

  private rootRow(side: ChangeSide, names: Triple<string | undefined>, where: Where): void {
    const [old = null, fresh = null, mine = null] = names
    const result = side === 'vanilla' ? fresh : mine
    this.ledger.change({ key: where.key, side, kind: 'renamed', was: old ?? '', old, new: fresh, mine, result })
  }

  private elementContent(nodes: Nodes, tagEnds: Triple<number>, nameSide: Side, where: Where): void {
    const shapes = triple((side) => (nodes[side] < 0 ? undefined : this.contentShape(side, nodes[side])))
    const [old, fresh, mine] = shapes
    const both = fresh === 'empty' ? mine : mine === 'empty' ? fresh : fresh === mine ? fresh : 'mixed'
    const fits = old === undefined || old === both || old === 'empty' || both === 'empty'
    if (both === 'mixed' || (both === 'text' && !fits)) this.contentClash(nodes, tagEnds, where)
    else {
      const kept: Nodes = fits ? nodes : [-1, nodes[NEW], nodes[MINE]]
      const listed = both === 'branch' || (both === 'empty' && old === 'branch') || this.hasInnerComments(kept)
      if (listed) this.listedContent(kept, tagEnds, nameSide, where)
      else this.textContent(kept, tagEnds, nameSide, where)
    }
  }

  private contentShape(side: Side, node: number): 'empty' | 'text' | 'branch' {
    const doc = this.docs[side]
    if (!doc.isLeafElement(node)) return 'branch'
    return doc.elementText(node) === '' ? 'empty' : 'text'
  }

  private hasInnerComments(nodes: Nodes): boolean {
    return SIDES.some((side) => {
      const doc = this.docs[side]
      if (nodes[side] < 0) return false
      return doc.children(nodes[side]).some((child) => {
        const kind = doc.kind(child)
        return kind === Kind.Comment || kind === Kind.Instruction
      })
    })
  }

  /** Text in one, child elements in the other: the content as a whole is one value. */
  private contentClash(nodes: Nodes, tagEnds: Triple<number>, where: Where): void {
    const contents = triple((side) => (nodes[side] < 0 ? undefined : this.contentForm(side, nodes[side])))
    const [old, fresh, mine] = contents
    let side: Side = MINE
    if (fresh === mine) this.row('both', 'changed', nodes, where.key, MINE)
    else if (old !== undefined && old === mine) {
      this.row('vanilla', 'changed', nodes, where.key, NEW)
      side = NEW
    } else if (old !== undefined && old === fresh) this.row('mine', 'changed', nodes, where.key, MINE)
    else this.conflict('shape', nodes, where.key)
    this.writer.slice(side, tagEnds[side], this.end(side, nodes[side]))
  }

  private contentForm(side: Side, node: number): string {
    const doc = this.docs[side]
    if (doc.isLeafElement(node)) return `text ${doc.elementText(node)}`
    const children = doc.children(node).filter((child) => {
      const kind = doc.kind(child)
      return kind !== Kind.Comment && kind !== Kind.Attribute
    })
    return `list ${children.map((child) => canonical(doc, child)).join('')}`
  }

  private listedContent(nodes: Nodes, tagEnds: Triple<number>, nameSide: Side, where: Where): void {
    const lists = this.contentLists(nodes)
    const frames = triple((side) =>
      nodes[side] < 0 ? undefined : { start: tagEnds[side], end: this.end(side, nodes[side]) },
    )
    const closeName = { side: nameSide, node: nodes[nameSide] }
    new ListMerge(this, { nodes, lists, frames, where, kind: Kind.Element, closeName }).run()
  }

  /** An element that is its text: `>` or `/>`, outer blanks, text, outer blanks, close tag. */
  private textContent(nodes: Nodes, tagEnds: Triple<number>, nameSide: Side, where: Where): void {
    const raw = triple((side) => this.docs[side].tree.source.slice(tagEnds[side], this.end(side, nodes[side])))
    const side = this.value(
      triple((each) => (nodes[each] < 0 ? undefined : this.docs[each].elementText(nodes[each]))),
      raw,
      nodes,
      where.key,
    )
    const framed = triple((each) =>
      nodes[each] >= 0 && !this.isSelfClosing(each, nodes[each]) ? this.textFrame(each, nodes[each], tagEnds[each]) : undefined,
    )
    const chosen = framed[side]
    if (chosen === undefined) {
      this.writer.slice(side, tagEnds[side], this.end(side, nodes[side]))
      return
    }
    this.form(triple((each) => framed[each]?.before))
    this.writer.slice(side, chosen.before.end, chosen.after.start)
    this.form(triple((each) => framed[each]?.after))
    this.closeTag(nodes, framed, nameSide)
  }

  private isSelfClosing(side: Side, node: number): boolean {
    const { tree } = this.docs[side]
    return tree.bodyStart[node] === tree.end[node]
  }

  /** What stands before and after the text of an element that has a close tag. */
  private textFrame(side: Side, node: number, tagEnd: number): { before: Span; after: Span } {
    const { tree } = this.docs[side]
    const bodyStart = tree.bodyStart[node] ?? 0
    const bodyEnd = tree.bodyEnd[node] ?? 0
    const textStart = skipBlanks(tree.source, bodyStart, bodyEnd)
    let textEnd = bodyEnd
    while (textEnd > textStart && skipBlanks(tree.source, textEnd - 1, textEnd) === textEnd) textEnd--
    return { before: { start: tagEnd, end: textStart }, after: { start: textEnd, end: bodyEnd } }
  }

  private closeTag(nodes: Nodes, framed: Triple<object | undefined>, nameSide: Side): void {
    const { tree } = this.docs[nameSide]
    const node = nodes[nameSide] < 0 ? -1 : nodes[nameSide]
    const name = node < 0 ? '' : tree.source.slice((tree.start[node] ?? 0) + 1, tree.nameEnd[node])
    const ends = triple((side) => {
      if (framed[side] === undefined) return undefined
      const from = this.docs[side].tree.bodyEnd[nodes[side]] ?? 0
      return this.docs[side].tree.source.slice(from, this.end(side, nodes[side]))
    })
    const side = pickSide(ends) ?? MINE
    this.writeClose(side, nodes[side], nameSide === side ? undefined : name)
  }

  /** Writes an element's close tag from one side, with another name where the element was renamed. */
  writeClose(side: Side, node: number, name: string | undefined): void {
    const { tree } = this.docs[side]
    const start = tree.bodyEnd[node] ?? 0
    const end = tree.end[node] ?? 0
    const ownName = this.docs[side].name(node)
    if (name === undefined || name === '' || name === ownName || start === end) this.writer.slice(side, start, end)
    else {
      this.writer.slice(side, start, start + 2)
      this.writer.made(name)
      this.writer.slice(side, start + 2 + ownName.length, end)
    }
  }

  // Form and facts

  /** Writes a stretch that is form alone, chosen three-way. */
  form(spans: Triple<Span | undefined>): void {
    const side = pickSide(
      triple((each) => {
        const span = spans[each]
        return span === undefined ? undefined : this.docs[each].tree.source.slice(span.start, span.end)
      }),
    )
    const span = side === undefined ? undefined : spans[side]
    if (side !== undefined && span !== undefined) this.writer.slice(side, span.start, span.end)
  }

  /** Tells the ledger a change. `from` is the side whose value stands, undefined where nothing does. */
  row(side: ChangeSide, kind: ChangeKind, nodes: Nodes, key: string, from: Side | undefined, was?: string): void {
    const result = from === undefined ? null : this.shown(from, nodes)
    this.ledger.change({
      key,
      side,
      kind,
      ...(was === undefined ? {} : { was }),
      old: this.shown(OLD, nodes),
      new: this.shown(NEW, nodes),
      mine: this.shown(MINE, nodes),
      result,
      ...this.types(nodes),
    })
  }

  conflict(kind: ConflictKind, nodes: Nodes, key: string): void {
    const position = (side: Side): { line: number; column: number } | null =>
      nodes[side] < 0 ? null : this.docs[side].lines.at(this.start(side, nodes[side]))
    this.ledger.conflict(
      {
        key,
        kind,
        old: this.shown(OLD, nodes),
        new: this.shown(NEW, nodes),
        mine: this.shown(MINE, nodes),
        result: this.shown(MINE, nodes),
        at: { old: position(OLD), new: position(NEW), mine: position(MINE) },
        ...this.types(nodes),
      },
      triple((side) => decodedValue(this.docs[side], nodes[side])),
    )
  }

  private shown(side: Side, nodes: Nodes): string | null {
    return nodes[side] < 0 ? null : shownValue(this.docs[side], nodes[side])
  }

  private types(nodes: Nodes): { types?: Types } {
    const [old, fresh, mine] = triple((side) =>
      nodes[side] < 0 ? undefined : jsonType(this.docs[side], nodes[side]),
    )
    const distinct = new Set([old, fresh, mine].filter((type) => type !== undefined))
    if (distinct.size < 2) return {}
    return { types: { old: old ?? null, new: fresh ?? null, mine: mine ?? null } }
  }

  /** The place of what a node holds: its own name added, where it has one that is part of a place. */
  placeInside(side: Side, node: number, place: string): string {
    const doc = this.docs[side]
    const kind = doc.kind(node)
    if (kind === Kind.Member) return placeOf(place, doc.name(node))
    if (kind !== Kind.Element || node === doc.root()) return place
    return placeOf(place, doc.name(node))
  }
}

