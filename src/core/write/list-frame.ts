import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { ListPlan } from '../plan/plan.ts'
import { writeClose } from './close-tag.ts'
import type { WriteContext } from './context.ts'
import { fitText } from './indent.ts'
import type { ListForm } from './list-form.ts'

/** Writes the opening and the closing of a container: brackets, tags, and what stands on the opening's line. */
export class ListFrame {
  constructor(
    private readonly context: WriteContext,
    private readonly plan: ListPlan,
    private readonly form: ListForm,
  ) {}

  /** Writes the opening, or a container that has no entries as a whole. */
  open(): void {
    const { frame, input } = this.plan
    if (frame?.open === undefined) return
    const { side, start, end } = frame.open
    this.context.writer.slice(side, start, end)
    if (!frame.isWhole) return
    this.closeTag(side)
    this.context.wrote(side, input.nodes[side])
  }

  /** Writes the closing, where `open` has not written the whole. */
  close(): void {
    const { frame, input } = this.plan
    if (frame === undefined || frame.isWhole) return
    const side = frame.close
    const list = surely(input.lists[side])
    if (list.closeStart < this.end(side)) this.context.endsInFreeComment = false
    this.closingBlanks(side)
    this.closeTag(side)
  }

  private closingBlanks(side: Side): void {
    const list = surely(this.plan.input.lists[side])
    const { writer, lineEnd } = this.context
    const { source } = list.tree
    const end = this.bodyEnd(side)
    const atLineStart = list.closeStart === 0 || /[\r\n]/.test(source.charAt(list.closeStart - 1))
    if (atLineStart && end < this.end(side) && !writer.atLineStart()) writer.made(lineEnd)
    const fit = this.form.closeFits[side]
    if (fit === undefined) writer.slice(side, list.closeStart, end)
    else writer.made(fitText(list.tree, list.closeStart, end, fit, atLineStart))
  }

  private closeTag(side: Side): void {
    const { kind, closeName, nodes } = this.plan.input
    const { writer, docs } = this.context
    const node = nodes[side]
    if (kind !== Kind.Element || closeName === undefined) {
      writer.slice(side, this.bodyEnd(side), docs[side].tree.end(node))
      return
    }
    writeClose(this.context, side, node, docs[closeName.side].name(closeName.node))
  }

  private bodyEnd(side: Side): number {
    return this.context.docs[side].tree.bodyEnd(this.plan.input.nodes[side])
  }

  private end(side: Side): number {
    return surely(this.plan.input.frames?.[side]).end
  }
}
