import { Kind } from '../document/kind.ts'
import { pick, pickSide } from '../document/pick.ts'
import type { Span } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Tree } from '../document/tree.ts'
import type { Doc } from '../formats/doc.ts'
import { commentsIn, pickComments, saidBy, sayingElse } from './comments.ts'
import type { FramePlan, ListInput } from './plan.ts'
import { quoted } from './quoted-comments.ts'
import { sideWithText } from './unit-parts.ts'

/**
 * Whose opening and closing a container has: brackets, tags, and what stands on the opening's line.
 *
 * @param hasEntries whether the result has entries in it
 */
export function planFrame(
  docs: Triple<Doc>,
  input: ListInput,
  hasEntries: boolean,
): FramePlan | undefined {
  return input.frames === undefined ? undefined : new Frame(docs, input, hasEntries).plan()
}

/** The frame of a list that is one question: all of it as one side has it. @param tree that side's */
export function questionFrame(
  tree: Tree,
  { frames, nodes }: ListInput,
  side: Side = MINE,
): FramePlan | undefined {
  const frame = frames?.[side]
  if (frame === undefined) return undefined
  return {
    open: { side, start: frame.start, end: tree.bodyEnd(nodes[side]) },
    isWhole: true,
    close: side,
    hasTrailingSeparator: false,
    told: [],
  }
}

class Frame {
  /** Whether a container without entries is as one of the inputs has it. */
  private readonly isWhole: boolean
  /**
   * Sides whose frame suits a result with or without entries, or has comments of its own on its opening's line; all
   * that have one where none does.
   */
  private readonly suits: Triple<boolean>

  constructor(
    private readonly docs: Triple<Doc>,
    private readonly input: ListInput,
    hasEntries: boolean,
  ) {
    const { lists, kind } = input
    const isEmpty = triple((side) => lists[side]?.length === 0)
    const isThere = triple((side) => lists[side] !== undefined)
    const suits = triple((side) => isThere[side] && isEmpty[side] !== hasEntries)
    this.isWhole = !hasEntries && kind !== Kind.Section && isEmpty.includes(true)
    const isChosen = (side: Side): boolean =>
      suits[side] || (!this.isWhole && this.ownComments(side).length > 0)
    this.suits = kind === Kind.Section || !suits.includes(true) ? isThere : triple(isChosen)
  }

  plan(): FramePlan {
    const { docs, suits } = this
    const spans = triple((side) => (suits[side] ? this.opening(side) : undefined))
    const comments = triple((side) => {
      const span = spans[side]
      return span === undefined ? undefined : this.commentsIn(side, span)
    })
    const texts = triple((side) => this.text(side, spans[side]))
    const { side: picked, lost } = pickComments(docs, comments, texts)
    const beside = this.besideText(picked)
    const hasNone = [picked, beside].every((each) => comments[each]?.length === 0)
    const side = hasNone ? beside : picked
    const span = spans[side]
    const left = ([NEW, MINE] as const).flatMap((each) =>
      suits[each] ? [] : quoted(docs[each], each, this.ownComments(each)),
    )
    const end = span === undefined || !this.isWhole ? span?.end : this.bodyEnd(side)
    return {
      open: span === undefined ? undefined : { side, start: span.start, end: end ?? span.end },
      isWhole: this.isWhole,
      close: this.isWhole ? side : this.close(),
      hasTrailingSeparator: this.hasTrailingSeparator(),
      told: [...quoted(docs[NEW], NEW, lost), ...left],
    }
  }

  /** Beside a text blanks are content: those of an opening or a closing are of the side that has the text. */
  private besideText(picked: Side): Side {
    const side = sideWithText(this.docs, this.input.lists)
    return side !== undefined && this.suits[side] ? side : picked
  }

  private close(): Side {
    const texts = triple((side) => {
      const list = this.input.lists[side]
      if (!this.suits[side] || list === undefined) return undefined
      return list.tree.source.slice(list.closeStart, this.bodyEnd(side))
    })
    return this.besideText(pickSide(texts) ?? MINE)
  }

  /** Whether the last entry has a separator behind it, chosen three-way. */
  private hasTrailingSeparator(): boolean {
    const trailing = triple((side) => {
      const list = this.input.lists[side]
      if (list === undefined) return undefined
      let last = list.length - 1
      while (last >= 0 && (list.isComment(last) || list.isDormant(last))) last--
      return last < 0 ? undefined : list.separator(last) >= 0
    })
    return pick(trailing) ?? false
  }

  private opening(side: Side, isWhole = this.isWhole): Span | undefined {
    const frame = this.input.frames?.[side]
    const list = this.input.lists[side]
    if (frame === undefined || list === undefined) return undefined
    return { start: frame.start, end: isWhole ? frame.end : list.openEnd }
  }

  private bodyEnd(side: Side): number {
    return this.docs[side].tree.bodyEnd(this.input.nodes[side])
  }

  private text(side: Side, span: Span | undefined): string | undefined {
    return span === undefined ? undefined : this.docs[side].tree.source.slice(span.start, span.end)
  }

  /** Comments that the opening holds: they stand on its line. */
  private commentsIn(side: Side, { start, end }: Span): number[] {
    const { tree } = this.docs[side]
    return commentsIn(this.docs[side], this.input.nodes[side]).filter(
      (comment) => tree.start(comment) >= start && tree.end(comment) <= end,
    )
  }

  /** The comments on a side's opening that old has not on its own. */
  private ownComments(side: Side): number[] {
    const span = this.opening(side, false)
    const before = this.opening(OLD, false)
    if (span === undefined) return []
    const { docs } = this
    const known = before === undefined ? [] : this.commentsIn(OLD, before)
    return sayingElse(docs[side], this.commentsIn(side, span), saidBy(docs[OLD], known))
  }
}
