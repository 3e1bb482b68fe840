import { skipBlanks } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import type { Span } from '../document/problem.ts'
import { attributesEnd, attributeUnits } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, SIDES, triple } from '../document/sides.ts'
import type { ChangeSide } from '../report/ledger.ts'
import { ListMerge } from './plan-list.ts'
import type { MergeContext, Where } from './context.ts'
import { pickSide } from '../document/pick.ts'
import type { Nodes } from '../report/recorder.ts'

/** Merges XML elements: a name, attributes, and a content that is text, a list of elements, or nothing. */
export class ElementMerge {
  constructor(private readonly merge: MergeContext) {}

  /** Merges an element: its name, its attributes, its content. */
  run(nodes: Nodes, where: Where): void {
    const nameSide = this.elementName(nodes, where)
    const tagEnds = triple((side) =>
      nodes[side] < 0 ? 0 : attributesEnd(this.merge.docs[side].tree, nodes[side]),
    )
    this.attributes(nodes, tagEnds, where)
    this.elementContent(nodes, tagEnds, nameSide, where)
  }

  private attributes(nodes: Nodes, tagEnds: Triple<number>, where: Where): void {
    const { docs, writer } = this.merge
    const from = triple((side) => (nodes[side] < 0 ? 0 : docs[side].tree.nameEnd(nodes[side])))
    const [old, fresh, mine] = triple((side) =>
      nodes[side] < 0 ? undefined : docs[side].tree.source.slice(from[side], tagEnds[side]),
    )
    if (old === mine && fresh === mine) {
      writer.slice(MINE, from[MINE], tagEnds[MINE])
      return
    }
    const lists = triple((side) =>
      nodes[side] < 0 ? undefined : attributeUnits(docs[side].tree, nodes[side]),
    )
    const kind = Kind.Attribute
    new ListMerge(this.merge, { nodes, lists, frames: undefined, where, kind }).run()
  }

  /** Writes `<name`; gives the side whose name stands. Names differ only in roots. */
  private elementName(nodes: Nodes, where: Where): Side {
    const names = triple((side) =>
      nodes[side] < 0 ? undefined : this.merge.docs[side].name(nodes[side]),
    )
    const [old, fresh, mine] = names
    const side = pickSide(names) ?? MINE
    if (fresh === mine && old !== undefined && old !== mine) this.rootRow('both', names, where)
    else if (fresh !== mine && old === mine) this.rootRow('vanilla', names, where)
    else if (fresh !== mine && old === fresh) this.rootRow('mine', names, where)
    else if (fresh !== mine)
      this.merge.record.conflict(old === undefined ? 'two-new' : 'two-values', nodes, where.key)
    this.merge.writer.slice(
      side,
      this.merge.start(side, nodes[side]),
      this.merge.docs[side].tree.nameEnd(nodes[side]),
    )
    return side
  }

  private rootRow(side: ChangeSide, names: Triple<string | undefined>, where: Where): void {
    const [old = null, fresh = null, mine = null] = names
    const result = side === 'vanilla' ? fresh : mine
    this.merge.ledger.change({
      key: where.key,
      side,
      kind: 'renamed',
      was: old ?? '',
      old,
      new: fresh,
      mine,
      result,
    })
  }

  private elementContent(
    nodes: Nodes,
    tagEnds: Triple<number>,
    nameSide: Side,
    where: Where,
  ): void {
    const shapes = triple((side) =>
      nodes[side] < 0 ? undefined : this.contentShape(side, nodes[side]),
    )
    const [old, fresh, mine] = shapes
    const both =
      fresh === 'empty' ? mine : mine === 'empty' ? fresh : fresh === mine ? fresh : 'mixed'
    const fits = old === undefined || old === both || old === 'empty' || both === 'empty'
    if (both === 'mixed' || (both === 'text' && !fits))
      this.contentClash(nodes, tagEnds, nameSide, where)
    else {
      const kept: Nodes = fits ? nodes : [-1, nodes[NEW], nodes[MINE]]
      const listed =
        both === 'branch' || (both === 'empty' && old === 'branch') || this.hasInnerComments(kept)
      if (listed) this.listedContent(kept, tagEnds, nameSide, where)
      else this.textContent(kept, tagEnds, nameSide, where)
    }
  }

  private contentShape(side: Side, node: number): 'empty' | 'text' | 'branch' {
    const doc = this.merge.docs[side]
    if (!doc.isLeafElement(node)) return 'branch'
    return doc.elementText(node) === '' ? 'empty' : 'text'
  }

  private hasInnerComments(nodes: Nodes): boolean {
    return SIDES.some((side) => {
      const doc = this.merge.docs[side]
      if (nodes[side] < 0) return false
      return doc.children(nodes[side]).some((child) => {
        const kind = doc.kind(child)
        return kind === Kind.Comment || kind === Kind.Instruction
      })
    })
  }

  /** Text in one, child elements in the other: the content as a whole is one value. */
  private contentClash(nodes: Nodes, tagEnds: Triple<number>, nameSide: Side, where: Where): void {
    const contents = triple((side) =>
      nodes[side] < 0 ? undefined : this.contentForm(side, nodes[side]),
    )
    const [old, fresh, mine] = contents
    let side: Side = MINE
    if (fresh === mine)
      this.merge.record.change({ side: 'both', kind: 'changed' }, nodes, where.key, MINE)
    else if (old !== undefined && old === mine) {
      this.merge.record.change({ side: 'vanilla', kind: 'changed' }, nodes, where.key, NEW)
      side = NEW
    } else if (old !== undefined && old === fresh)
      this.merge.record.change({ side: 'mine', kind: 'changed' }, nodes, where.key, MINE)
    else this.merge.record.conflict('shape', nodes, where.key)
    const { docs, writer } = this.merge
    writer.slice(side, tagEnds[side], docs[side].tree.bodyEnd(nodes[side]))
    writeClose(this.merge, side, nodes[side], docs[nameSide].name(nodes[nameSide]))
  }

  private contentForm(side: Side, node: number): string {
    const doc = this.merge.docs[side]
    if (doc.isLeafElement(node)) return `text ${doc.elementText(node)}`
    const children = doc.children(node).filter((child) => {
      const kind = doc.kind(child)
      return kind !== Kind.Comment && kind !== Kind.Attribute
    })
    return `list ${children.map((child) => canonical(doc, child)).join('')}`
  }

  private listedContent(nodes: Nodes, tagEnds: Triple<number>, nameSide: Side, where: Where): void {
    const units = this.merge.contentLists(nodes, where)
    const frames = triple((side) =>
      nodes[side] < 0
        ? undefined
        : { start: tagEnds[side], end: this.merge.end(side, nodes[side]) },
    )
    const closeName = { side: nameSide, node: nodes[nameSide] }
    new ListMerge(this.merge, {
      nodes,
      ...units,
      frames,
      where,
      kind: Kind.Element,
      closeName,
    }).run()
  }

  /** An element that is its text: `>` or `/>`, outer blanks, text, outer blanks, close tag. */
  private textContent(nodes: Nodes, tagEnds: Triple<number>, nameSide: Side, where: Where): void {
    const raw = triple((side) =>
      nodes[side] < 0
        ? ''
        : this.merge.docs[side].tree.source.slice(tagEnds[side], this.merge.end(side, nodes[side])),
    )
    const { side, made } = this.merge.value(
      triple((each) =>
        nodes[each] < 0 ? undefined : this.merge.docs[each].elementText(nodes[each]),
      ),
      raw,
      nodes,
      where,
    )
    const framed = triple((each) =>
      nodes[each] >= 0 && !this.isSelfClosing(each, nodes[each])
        ? this.textFrame(each, nodes[each], tagEnds[each])
        : undefined,
    )
    const chosen = framed[side]
    if (chosen === undefined) {
      this.merge.writer.slice(side, tagEnds[side], this.merge.end(side, nodes[side]))
      return
    }
    this.merge.form(triple((each) => framed[each]?.before))
    if (made === undefined) this.merge.writer.slice(side, chosen.before.end, chosen.after.start)
    else this.merge.writer.made(made)
    this.merge.form(triple((each) => framed[each]?.after))
    this.closeTag(nodes, framed, nameSide)
  }

  private isSelfClosing(side: Side, node: number): boolean {
    const { tree } = this.merge.docs[side]
    return tree.bodyStart(node) === tree.end(node)
  }

  /** What stands before and after the text of an element that has a close tag. */
  private textFrame(side: Side, node: number, tagEnd: number): { before: Span; after: Span } {
    const { tree } = this.merge.docs[side]
    const bodyStart = tree.bodyStart(node)
    const bodyEnd = tree.bodyEnd(node)
    const textStart = skipBlanks(tree.source, bodyStart, bodyEnd)
    let textEnd = bodyEnd
    while (textEnd > textStart && skipBlanks(tree.source, textEnd - 1, textEnd) === textEnd)
      textEnd--
    return { before: { start: tagEnd, end: textStart }, after: { start: textEnd, end: bodyEnd } }
  }

  private closeTag(nodes: Nodes, framed: Triple<object | undefined>, nameSide: Side): void {
    const { tree } = this.merge.docs[nameSide]
    const node = nodes[nameSide] < 0 ? -1 : nodes[nameSide]
    const name = node < 0 ? '' : tree.source.slice(tree.start(node) + 1, tree.nameEnd(node))
    const ends = triple((side) => {
      if (framed[side] === undefined) return undefined
      const from = this.merge.docs[side].tree.bodyEnd(nodes[side])
      return this.merge.docs[side].tree.source.slice(from, this.merge.end(side, nodes[side]))
    })
    const side = pickSide(ends) ?? MINE
    writeClose(this.merge, side, nodes[side], nameSide === side ? undefined : name)
  }
}

/** Writes an element's close tag from one side, with another name where the element was renamed. */
export function writeClose(
  { docs, writer }: Pick<MergeContext, 'docs' | 'writer'>,
  side: Side,
  node: number,
  name: string | undefined,
): void {
  const { tree } = docs[side]
  const [start, end] = [tree.bodyEnd(node), tree.end(node)]
  const ownName = docs[side].name(node)
  if (name === undefined || name === '' || name === ownName || start === end) {
    writer.slice(side, start, end)
    return
  }
  writer.slice(side, start, start + 2)
  writer.made(name)
  writer.slice(side, start + 2 + ownName.length, end)
}
