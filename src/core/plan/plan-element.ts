import type { ContentShape } from '../match/content-shape.ts'
import { shapeOfBoth } from '../match/content-shape.ts'
import { skipBlanks } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import { pickSide } from '../document/pick.ts'
import type { Span } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, PAIRS, SIDES, triple } from '../document/sides.ts'
import type { Tree } from '../document/tree.ts'
import { attributesEnd, attributeUnits } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import { areAllEqual, areEqual } from '../likeness/align.ts'
import type { PlanContext } from './context.ts'
import type { ElementPlan, ListPlan, Telling, TextPlan, Where, WholeContent } from './plan.ts'
import { planList } from './plan-list.ts'
import { quotedInside } from './quoted-comments.ts'
import type { ChangeSide, ConflictKind, Nodes } from './telling.ts'

/** An XML element: a name, attributes, and a content that is text, a list of elements, or nothing. */
export function planElement(context: PlanContext, nodes: Nodes, where: Where): ElementPlan {
  const { docs } = context
  const name = nameSide(context, nodes, where)
  const tagEnds = triple((side) =>
    nodes[side] < 0 ? 0 : attributesEnd(docs[side].tree, nodes[side]),
  )
  return {
    do: 'element',
    nodes,
    name: name.side,
    attributes: planAttributes(context, nodes, tagEnds, where),
    content: new ContentPlanner(context, { nodes, tagEnds, name: name.side, where }).plan(),
    told: name.told,
  }
}

/** Whose name stands, and what is told of it. Names differ only in roots. */
function nameSide(
  { docs }: PlanContext,
  nodes: Nodes,
  { key }: Where,
): { side: Side; told: readonly Telling[] } {
  const names = triple((side) => (nodes[side] < 0 ? undefined : docs[side].name(nodes[side])))
  const [old, fresh, mine] = names
  const side = pickSide(names) ?? MINE
  const renamed = (by: ChangeSide): { side: Side; told: readonly Telling[] } => {
    const values = triple((each) => names[each] ?? null)
    const result = names[side] ?? null
    const was = old ?? ''
    return { side, told: [{ tell: 'values', side: by, kind: 'renamed', key, was, values, result }] }
  }
  if (fresh === mine)
    return old === undefined || old === mine ? { side, told: [] } : renamed('both')
  if (old === mine) return renamed('vanilla')
  if (old === fresh) return renamed('mine')
  const kind = old === undefined ? 'two-new' : 'two-values'
  return { side, told: [{ tell: 'conflict', kind, key, nodes }] }
}

function planAttributes(
  context: PlanContext,
  nodes: Nodes,
  tagEnds: Triple<number>,
  where: Where,
): ListPlan | Side {
  const { docs } = context
  const [old, fresh, mine] = triple((side) => {
    const { tree } = docs[side]
    return nodes[side] < 0 ? undefined : tree.source.slice(tree.nameEnd(nodes[side]), tagEnds[side])
  })
  if (old === mine && fresh === mine) return MINE
  const lists = triple((side) =>
    nodes[side] < 0 ? undefined : attributeUnits(docs[side].tree, nodes[side]),
  )
  return planList(context, { nodes, lists, frames: undefined, where, kind: Kind.Attribute })
}

/** An element whose content is planned. */
interface Opened {
  nodes: Nodes
  /** Where the attributes end in each document. */
  tagEnds: Triple<number>
  /** Whose name the element has. */
  name: Side
  where: Where
}

/** What a text begins with beside names of elements, which have no blank. */
const TEXT = ' '

function isText(piece: string): boolean {
  return piece.startsWith(TEXT)
}

class ContentPlanner {
  /** What the element holds in each document, attributes aside, and without comments. */
  private readonly children: Triple<readonly number[]>
  private readonly held: Triple<readonly number[]>

  constructor(
    private readonly context: PlanContext,
    private readonly opened: Opened,
  ) {
    const { docs } = context
    const { nodes } = opened
    this.children = triple((side) => {
      const doc = docs[side]
      if (nodes[side] < 0) return []
      return doc.children(nodes[side]).filter((child) => doc.kind(child) !== Kind.Attribute)
    })
    this.held = triple((side) =>
      this.children[side].filter((child) => docs[side].kind(child) !== Kind.Comment),
    )
  }

  plan(): ElementPlan['content'] {
    const { nodes } = this.opened
    const shapes = triple((side) =>
      nodes[side] < 0 ? undefined : this.contentShape(side, nodes[side]),
    )
    const [old, fresh, mine] = shapes
    const both = shapeOfBoth(old, fresh, mine)
    if (both === 'clash') return this.clash('shape')
    if (this.isRewrittenByBoth()) return this.clash(old === undefined ? 'two-new' : 'two-values')
    // a text of old may stand beside the elements that came
    const isListed =
      both === 'branch' || (both === 'empty' && old === 'branch') || this.hasInnerComments()
    return isListed ? this.list(nodes) : this.text(nodes)
  }

  private contentShape(side: Side, node: number): ContentShape {
    const doc = this.context.docs[side]
    if (!doc.isLeafElement(node)) return 'branch'
    return doc.elementText(node) === '' ? 'empty' : 'text'
  }

  private hasInnerComments(): boolean {
    return SIDES.some((side) =>
      this.children[side].some((child) => {
        const kind = this.context.docs[side].kind(child)
        return kind === Kind.Comment || kind === Kind.Instruction
      }),
    )
  }

  /**
   * Whether each side made another sequence of texts and elements of what an element holds, where a text changed and
   * not all have as many in the same places: a text has no name, and is told by its place alone. Without elements
   * all texts are one value, with comments in between.
   */
  private isRewrittenByBoth(): boolean {
    if (!SIDES.some((side) => this.hasTextAmongOthers(side))) return false
    const flows = triple((side) => this.flow(side))
    const texts = flows.map((flow) => flow.filter(isText))
    const places = flows.map((flow) => flow.map((piece) => (isText(piece) ? TEXT : piece)))
    const isOneValue = flows.every((flow) => flow.every(isText))
    if (areAllEqual(texts) || (!isOneValue && areAllEqual(places))) return false
    return PAIRS.every(([a, b]) => !areEqual(flows[a], flows[b]))
  }

  private hasTextAmongOthers(side: Side): boolean {
    const held = this.held[side]
    return (
      held.length > 1 && held.some((child) => this.context.docs[side].kind(child) === Kind.Text)
    )
  }

  /** Its texts, and the names of its elements, in their order. */
  private flow(side: Side): string[] {
    const doc = this.context.docs[side]
    return this.held[side].map((child) =>
      doc.kind(child) === Kind.Text ? TEXT + canonical(doc, child) : doc.name(child),
    )
  }

  /** The content as a whole is one value. */
  private clash(kind: ConflictKind): WholeContent {
    const { nodes, where } = this.opened
    const [old, fresh, mine] = triple((side) =>
      nodes[side] < 0 ? undefined : this.contentForm(side, nodes[side]),
    )
    const { key } = where
    const changed = (by: ChangeSide, side: Side, other: Side): WholeContent => {
      const told: Telling = { tell: 'change', side: by, kind: 'changed', key, nodes, from: side }
      const lost = quotedInside(this.context.docs, nodes, other)
      return { do: 'content', side, told: [told, ...lost] }
    }
    if (fresh === mine) return changed('both', MINE, NEW)
    if (old !== undefined && old === mine) return changed('vanilla', NEW, MINE)
    if (old !== undefined && old === fresh) return changed('mine', MINE, NEW)
    return { do: 'content', side: MINE, told: [{ tell: 'conflict', kind, key, nodes }] }
  }

  private contentForm(side: Side, node: number): string {
    const doc = this.context.docs[side]
    if (doc.isLeafElement(node)) return `text ${doc.elementText(node)}`
    return `list ${this.held[side].map((child) => canonical(doc, child)).join('')}`
  }

  private list(nodes: Nodes): ListPlan {
    const { context, opened } = this
    const { tagEnds, name, where } = opened
    const frames = triple((side): Span | undefined =>
      nodes[side] < 0
        ? undefined
        : { start: tagEnds[side], end: context.docs[side].tree.end(nodes[side]) },
    )
    const closeName = { side: name, node: nodes[name] }
    const lists = context.contentLists(nodes, where)
    return planList(context, { nodes, ...lists, frames, where, kind: Kind.Element, closeName })
  }

  /** An element that is its text: `>` or `/>`, outer blanks, text, outer blanks, close tag. */
  private text(nodes: Nodes): TextPlan {
    const { docs } = this.context
    const { tagEnds, where } = this.opened
    const raw = triple((side) => {
      const { tree } = docs[side]
      return nodes[side] < 0 ? '' : tree.source.slice(tagEnds[side], tree.end(nodes[side]))
    })
    const texts = triple((side) =>
      nodes[side] < 0 ? undefined : docs[side].elementText(nodes[side]),
    )
    const { choice, told } = this.context.value(texts, raw, nodes, where)
    const framed = triple((side) =>
      nodes[side] >= 0 && !isSelfClosing(docs[side].tree, nodes[side])
        ? textFrame(docs[side].tree, nodes[side], tagEnds[side])
        : undefined,
    )
    const sideOf = (what: 'before' | 'after' | 'close'): Side =>
      pickSide(
        triple((side) => {
          const span = framed[side]?.[what]
          return span === undefined ? undefined : docs[side].tree.source.slice(span.start, span.end)
        }),
      ) ?? MINE
    // around nothing no blanks are before it or behind it: all are of one side
    const isNothing = choice.made === undefined && texts[choice.side] === ''
    const around = (what: 'before' | 'after'): Side => (isNothing ? choice.side : sideOf(what))
    const form =
      framed[choice.side] === undefined
        ? undefined
        : { before: around('before'), after: around('after'), close: sideOf('close') }
    return { do: 'text', nodes, value: choice, form, told }
  }
}

function isSelfClosing(tree: Tree, node: number): boolean {
  return tree.bodyStart(node) === tree.end(node)
}

/** What stands before and after the text of an element that has a close tag, and that tag. */
export function textFrame(
  tree: Tree,
  node: number,
  tagEnd: number,
): { before: Span; after: Span; close: Span } {
  const bodyStart = tree.bodyStart(node)
  const bodyEnd = tree.bodyEnd(node)
  const textStart = skipBlanks(tree.source, bodyStart, bodyEnd)
  let textEnd = bodyEnd
  while (textEnd > textStart && skipBlanks(tree.source, textEnd - 1, textEnd) === textEnd) textEnd--
  return {
    before: { start: tagEnd, end: textStart },
    after: { start: textEnd, end: bodyEnd },
    close: { start: bodyEnd, end: tree.end(node) },
  }
}
