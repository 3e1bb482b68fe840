import { Kind } from '../document/kind.ts'
import { countLineEnds, skipToLineStart } from '../document/characters.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { ownComments, pickComments, trailingComments } from '../plan/comments.ts'
import { fitText } from './indent.ts'
import type { ListForm } from './list-form.ts'
import type { ListInput } from '../plan/context.ts'
import type { MergeContext } from '../plan/context.ts'
import type { Nodes } from '../report/recorder.ts'
import { pickForm } from '../document/line-ends.ts'
import { carryProblems } from '../plan/carry-problems.ts'

/** Writes units of one container: blanks, own comments, node, separator, what follows on the line. */
export class UnitWriter {
  /** Blanks are content beside text: nothing is fitted there. */
  private readonly isMixed: boolean
  private readonly isAttributes: boolean

  constructor(
    private readonly merge: MergeContext,
    private readonly input: ListInput,
    private readonly form: ListForm,
  ) {
    this.isAttributes = input.kind === Kind.Attribute
    this.isMixed = SIDES.some((side) =>
      input.lists[side]?.nodes.some((node) => merge.docs[side].kind(node) === Kind.Text),
    )
  }

  /** Writes a unit that only one side has. */
  single(side: Side, unit: number, separator: boolean): void {
    const list = this.list(side)
    const { writer } = this.merge
    const fitted = !this.isMixed && !this.isAttributes
    if (fitted && this.form.multiline) this.beginLine()
    this.partFromComment(side, unit)
    if (!fitted) {
      if (this.isAttributes && list.start(unit) === list.own(unit)) writer.made(' ')
      this.parts(side, unit, separator)
    } else if (this.form.multiline !== list.startsLine(unit)) this.reshaped(side, unit, separator)
    else this.parts(side, unit, separator)
    this.noteEnding(side, unit)
  }

  /** A gap before an entry that would else be taken to own the comment written before it. */
  private partFromComment(side: Side, unit: number): void {
    const { merge } = this
    if (!merge.endsInFreeComment || merge.writer.isMuted || this.isMixed || this.isAttributes)
      return
    const list = this.list(side)
    if (list.isComment(unit) || !merge.writer.atLineStart()) return
    const start = list.start(unit)
    if (countLineEnds(list.tree.source, start, list.own(unit)) === 0)
      merge.writer.made(merge.options.lineEnd)
    merge.endsInFreeComment = false
  }

  private noteEnding(side: Side, unit: number): void {
    this.merge.wrote(side, this.list(side).node(unit))
  }

  /** A unit from a list on one line goes to lines of their own, or the other way round. */
  private reshaped(side: Side, unit: number, separator: boolean): void {
    const list = this.list(side)
    const { writer } = this.merge
    const { lineEnd } = this.merge.options
    writer.made(this.form.multiline ? this.form.indent : this.inlineLead())
    this.piece(side, list.own(unit), this.nodeEnd(side, unit))
    if (separator) writer.made(this.separator(side))
    const tail = this.tailText(side, unit)
    const keepsLineEnd = this.form.multiline || tail.trim() !== ''
    if (tail.trim() !== '') writer.made(tail.replace(/[\r\n\s]+$/, ''))
    if (keepsLineEnd) writer.made(lineEnd)
  }

  /** What stands before an entry on one line: as before mine's second one. */
  private inlineLead(): string {
    for (const side of [MINE, NEW, OLD] as const) {
      const list = this.input.lists[side]
      if (list === undefined || list.length < 2 || list.startsLine(1)) continue
      return list.tree.source.slice(list.start(1), list.own(1))
    }
    return ' '
  }

  /** Writes an entry that both have; `entry` merges its nodes. */
  merged(units: Triple<number>, separator: boolean, entry: (nodes: Nodes) => void): void {
    const nodes = triple((side) => (units[side] < 0 ? -1 : this.list(side).node(units[side])))
    const [old, fresh, mine] = triple((side) => this.unitText(side, units[side]))
    const whole = this.merge.together.touches(nodes)
      ? undefined
      : fresh === mine
        ? MINE
        : old === undefined
          ? undefined
          : old === mine
            ? NEW
            : old === fresh
              ? MINE
              : undefined
    if (whole === undefined || (old === undefined && fresh !== mine))
      this.byParts(units, nodes, separator, entry)
    else {
      if (old !== fresh || old !== mine) this.merge.writer.muted(() => entry(nodes))
      this.guardLine(whole, units[whole])
      this.partFromComment(whole, units[whole])
      this.parts(whole, units[whole], separator, false)
      this.noteEnding(whole, units[whole])
    }
  }

  private byParts(
    units: Triple<number>,
    nodes: Nodes,
    separator: boolean,
    entry: (nodes: Nodes) => void,
  ): void {
    this.lead(units)
    this.ownPart(units)
    entry(nodes)
    this.tail(units, separator)
  }

  /** Writes a comment that belongs to no entry, and that both have. */
  comment(units: Triple<number>): void {
    this.lead(units)
    const bodies = triple((side) => this.unitSlice(side, units[side], 'own', 'end'))
    const comments = triple((side) =>
      units[side] < 0
        ? undefined
        : [this.list(side).node(units[side]), ...trailingComments(this.list(side), units[side])],
    )
    const picked = pickComments(this.merge.docs, comments, bodies)
    this.noteLost(picked.lost)
    const list = this.list(picked.side)
    this.piece(picked.side, list.own(units[picked.side]), list.end(units[picked.side]))
    this.noteEnding(picked.side, units[picked.side])
  }

  /** Writes nothing of a unit of mine but the comments above it. */
  ownCommentsOnly(unit: number): void {
    const list = this.list(MINE)
    const end = list.tree.end(ownComments(list, unit).at(-1) ?? -1)
    if (list.startsLine(unit)) this.beginLine()
    this.piece(
      MINE,
      list.start(unit),
      skipToLineStart(list.tree.source, end, this.nodeEnd(MINE, unit)),
    )
    if (!this.merge.writer.isMuted) this.merge.endsInFreeComment = true
  }

  // Parts of a unit

  private lead(units: Triple<number>): void {
    const leads = triple((side) => this.unitSlice(side, units[side], 'start', 'own'))
    const side = pickForm(leads) ?? MINE
    const list = this.list(side)
    this.guardLine(side, units[side])
    this.partFromComment(side, units[side])
    if (!this.merge.writer.isMuted) this.merge.endsInFreeComment = false
    this.merge.writer.slice(side, list.start(units[side]), list.own(units[side]))
  }

  private ownPart(units: Triple<number>): void {
    const raw = triple((side) => this.unitSlice(side, units[side], 'own', 'node'))
    const comments = triple((side) =>
      units[side] < 0 ? undefined : ownComments(this.list(side), units[side]),
    )
    const counts = new Set(comments.map((each) => each?.length))
    if (counts.size === 1 && (comments[MINE]?.length ?? 0) > 1) {
      for (const at of (comments[MINE] ?? []).keys()) this.ownComment(units, comments, at)
      return
    }
    const picked = pickComments(this.merge.docs, comments, raw)
    this.noteLost(picked.lost)
    const list = this.list(picked.side)
    const unit = units[picked.side]
    this.piece(picked.side, list.own(unit), list.tree.start(list.node(unit)))
  }

  /** One of the comments above an entry, and what stands before the next: where all have as many, each is chosen by itself. */
  private ownComment(
    units: Triple<number>,
    comments: Triple<readonly number[] | undefined>,
    at: number,
  ): void {
    const spans = triple((side) => {
      const list = this.list(side)
      const unit = units[side]
      const [comment, next] = (comments[side] ?? []).slice(at, at + 2)
      const { tree } = list
      return {
        start: at === 0 || comment === undefined ? list.own(unit) : tree.start(comment),
        end: tree.start(next ?? list.node(unit)),
      }
    })
    const picked = pickComments(
      this.merge.docs,
      triple((side) => comments[side]?.slice(at, at + 1)),
      triple((side) => this.list(side).tree.source.slice(spans[side].start, spans[side].end)),
    )
    this.noteLost(picked.lost)
    this.piece(picked.side, spans[picked.side].start, spans[picked.side].end)
  }

  private tail(units: Triple<number>, separator: boolean): void {
    const raw = triple((side) => (units[side] < 0 ? undefined : this.tailText(side, units[side])))
    const comments = triple((side) =>
      units[side] < 0 ? undefined : trailingComments(this.list(side), units[side]),
    )
    const picked = pickComments(this.merge.docs, comments, raw)
    this.noteLost(picked.lost)
    this.tailOf(picked.side, units[picked.side], separator)
  }

  private tailOf(side: Side, unit: number, separator: boolean): void {
    const list = this.list(side)
    const at = list.separator(unit)
    const nodeEnd = this.nodeEnd(side, unit)
    const end = list.end(unit)
    if (separator && at < 0) this.merge.writer.made(this.separator(side))
    if (at < 0 || separator) this.piece(side, nodeEnd, end)
    else {
      this.piece(side, nodeEnd, at)
      this.piece(side, at + 1, end)
    }
  }

  /** A whole unit of one side, with or without a separator, fitted where it is not at home. */
  private parts(side: Side, unit: number, separator: boolean, fitted = true): void {
    const list = this.list(side)
    const start = list.start(unit)
    if (fitted) this.piece(side, start, this.nodeEnd(side, unit), list.startsLine(unit))
    else this.merge.writer.slice(side, start, this.nodeEnd(side, unit))
    this.tailOf(side, unit, separator)
  }

  private piece(side: Side, start: number, end: number, whole = false): void {
    const fit = this.isMixed || this.isAttributes ? undefined : this.form.fits[side]
    if (fit === undefined) this.merge.writer.slice(side, start, end)
    else this.merge.writer.made(fitText(this.list(side).tree, start, end, fit, whole))
  }

  private guardLine(side: Side, unit: number): void {
    const list = this.list(side)
    if (!this.isMixed && !this.isAttributes && list.startsLine(unit)) this.beginLine()
  }

  private beginLine(): void {
    if (!this.merge.writer.atLineStart()) this.merge.writer.made(this.merge.options.lineEnd)
  }

  private separator(side: Side): string {
    return this.merge.docs[side].format.separator
  }

  private noteLost(comments: readonly number[]): void {
    if (this.merge.writer.isMuted) return
    for (const comment of comments) {
      this.merge.ledger.problem(carryProblems.commentQuoted(this.merge.docs[NEW], comment, NEW))
    }
  }

  // Slices

  private list(side: Side): UnitList {
    const list = this.input.lists[side]
    if (list === undefined) throw new Error(`no list on side ${side}`)
    return list
  }

  private nodeEnd(side: Side, unit: number): number {
    const list = this.list(side)
    return list.tree.end(list.node(unit))
  }

  private unitText(side: Side, unit: number): string | undefined {
    return this.unitSlice(side, unit, 'start', 'end')
  }

  private unitSlice(
    side: Side,
    unit: number,
    from: 'start' | 'own',
    to: 'own' | 'node' | 'end',
  ): string | undefined {
    if (unit < 0) return undefined
    const list = this.list(side)
    const end = to === 'node' ? list.tree.start(list.node(unit)) : list[to](unit)
    return list.tree.source.slice(list[from](unit), end)
  }

  /** What follows a unit's node, its separator left out. */
  private tailText(side: Side, unit: number): string {
    const list = this.list(side)
    const { source } = list.tree
    const at = list.separator(unit)
    const nodeEnd = this.nodeEnd(side, unit)
    if (at < 0) return source.slice(nodeEnd, list.end(unit))
    return source.slice(nodeEnd, at) + source.slice(at + 1, list.end(unit))
  }
}
