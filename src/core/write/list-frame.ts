import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { pickComments } from '../plan/comments.ts'
import { fitText } from './indent.ts'
import type { ListForm } from './list-form.ts'
import type { ListInput } from '../plan/context.ts'
import type { MergeContext } from '../plan/context.ts'
import { pick, pickSide } from '../document/pick.ts'
import { carryProblems } from '../plan/carry-problems.ts'

/** The opening and the closing of a container: brackets, tags, and what stands on the opening's line. */
export class ListFrame {
  constructor(
    private readonly merge: MergeContext,
    private readonly input: ListInput,
    private readonly form: ListForm,
  ) {}

  /** Whether the last entry has a separator behind it, chosen three-way. */
  hasTrailingSeparator(): boolean {
    const trailing = triple((side) => {
      const list = this.input.lists[side]
      if (list === undefined) return undefined
      let last = list.length - 1
      while (last >= 0 && list.isComment(last)) last--
      return last < 0 ? undefined : list.separator(last) >= 0
    })
    return pick(trailing) ?? false
  }

  /** Writes the opening of a container that has entries, or a container that has none as a whole. */
  open(hasEntries: boolean): void {
    if (this.input.frames === undefined) return
    const sides = this.candidates(hasEntries)
    const wholly = this.isWritten(hasEntries)
    const spans = triple((side) => (sides[side] ? this.openSpan(side, wholly) : undefined))
    const comments = triple((side) => {
      const span = spans[side]
      return span === undefined ? undefined : this.commentsIn(side, span.start, span.end)
    })
    const picked = pickComments(
      this.merge.docs,
      comments,
      triple((side) => this.text(side, spans[side])),
    )
    for (const comment of picked.lost) this.note(comment)
    if (!sides[NEW]) this.noteUnchosen()
    const span = spans[picked.side]
    if (span === undefined) return
    this.merge.writer.slice(picked.side, span.start, wholly ? this.bodyEnd(picked.side) : span.end)
    if (wholly) this.closeTag(picked.side)
  }

  /** Writes the closing, where `open` has not written the whole. */
  close(hasEntries: boolean): void {
    if (this.input.frames === undefined) return
    const sides = this.candidates(hasEntries)
    if (this.isWritten(hasEntries)) return
    const texts = triple((side) => {
      const list = this.input.lists[side]
      return sides[side] && list !== undefined
        ? list.tree.source.slice(list.closeStart, this.bodyEnd(side)) + this.isSelfClosing(side)
        : undefined
    })
    const side = pickSide(texts) ?? MINE
    if (texts[side] !== '' && !this.merge.writer.isMuted) this.merge.endsInFreeComment = false
    this.closingBlanks(side)
    this.closeTag(side)
  }

  private closingBlanks(side: Side): void {
    const list = this.input.lists[side]
    if (list === undefined) return
    const { writer } = this.merge
    const { lineEnd } = this.merge.options
    const { source } = list.tree
    const end = this.bodyEnd(side)
    const atLineStart = list.closeStart === 0 || /[\r\n]/.test(source.charAt(list.closeStart - 1))
    if (atLineStart && end < this.end(side) && !writer.atLineStart()) writer.made(lineEnd)
    const fit = this.form.closeFits[side]
    if (fit === undefined) writer.slice(side, list.closeStart, end)
    else writer.made(fitText(list.tree, list.closeStart, end, fit, atLineStart))
  }

  private closeTag(side: Side): void {
    const { closeName, nodes } = this.input
    const { writer, docs } = this.merge
    if (this.input.kind !== Kind.Element || closeName === undefined) {
      writer.slice(side, this.bodyEnd(side), this.end(side))
      return
    }
    this.merge.writeClose(side, nodes[side], docs[closeName.side].name(closeName.node))
  }

  /** Whether the container is written as a whole: it has no entries, as in one of the inputs. */
  private isWritten(hasEntries: boolean): boolean {
    if (hasEntries || this.input.kind === Kind.Section) return false
    return SIDES.some((side) => this.input.lists[side] !== undefined && this.isEmpty(side))
  }

  /** Sides whose frame suits a result with or without entries; all that have one where none does. */
  private candidates(hasEntries: boolean): Triple<boolean> {
    const present = triple((side) => this.input.lists[side] !== undefined)
    if (this.input.kind === Kind.Section) return present
    const suits = triple((side) => present[side] && this.isEmpty(side) !== hasEntries)
    return suits.includes(true) ? suits : present
  }

  private isEmpty(side: Side): boolean {
    return (this.input.lists[side]?.length ?? 0) === 0
  }

  private isSelfClosing(side: Side): string {
    return this.input.kind === Kind.Element && this.bodyEnd(side) === this.end(side) ? '/' : ''
  }

  private openSpan(side: Side, wholly: boolean): { start: number; end: number } | undefined {
    const frame = this.input.frames?.[side]
    const list = this.input.lists[side]
    if (frame === undefined || list === undefined) return undefined
    return { start: frame.start, end: wholly ? frame.end : list.openEnd }
  }

  private bodyEnd(side: Side): number {
    return this.merge.docs[side].tree.bodyEnd(this.input.nodes[side])
  }

  private end(side: Side): number {
    return this.input.frames?.[side]?.end ?? 0
  }

  private text(side: Side, span: { start: number; end: number } | undefined): string | undefined {
    return span === undefined
      ? undefined
      : this.merge.docs[side].tree.source.slice(span.start, span.end)
  }

  /** Comments that the opening holds: they stand on its line. */
  private commentsIn(side: Side, start: number, end: number): number[] {
    const doc = this.merge.docs[side]
    return doc
      .children(this.input.nodes[side])
      .filter((node) => doc.kind(node) === Kind.Comment)
      .filter((node) => doc.tree.start(node) >= start && doc.tree.end(node) <= end)
  }

  /** New's opening was not to be chosen from: a comment on it that old has not is quoted. */
  private noteUnchosen(): void {
    const span = this.openSpan(NEW, false)
    const before = this.openSpan(OLD, false)
    if (span === undefined) return
    const { docs } = this.merge
    const known = before === undefined ? [] : this.commentsIn(OLD, before.start, before.end)
    const texts = new Set(known.map((comment) => docs[OLD].commentText(comment)))
    for (const comment of this.commentsIn(NEW, span.start, span.end)) {
      if (!texts.has(docs[NEW].commentText(comment))) this.note(comment)
    }
  }

  private note(comment: number): void {
    if (this.merge.writer.isMuted) return
    this.merge.ledger.problem(carryProblems.commentQuoted(this.merge.docs[NEW], comment, NEW))
  }
}
