import { countLineEnds, isLineEnd, skipToLineStart } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import { surely } from '../document/surely.ts'
import { ownComments } from '../plan/comments.ts'
import type { Lead, ListInput, UnitParts } from '../plan/plan.ts'
import { holdsText, tailText } from '../plan/unit-parts.ts'
import type { WriteContext } from './context.ts'
import type { Fits } from './indent.ts'
import { fitText, NOTHING_FITTED } from './indent.ts'
import type { ListForm } from './list-form.ts'

/** Where an entry is written. */
export interface Place {
  /** Whether a separator is to follow. */
  readonly separator: boolean
  /** Whether what was written before stands directly before the entry in a document, too. */
  readonly follows: (side: Side) => boolean
  /** The same of what is written next. */
  readonly precedes: (side: Side) => boolean
}

/** Writes units of one container: blanks, own comments, node, separator, what follows on the line. */
export class UnitWriter {
  /** Blanks are content beside text: nothing is fitted there. */
  private readonly isMixed: boolean
  private readonly isAttributes: boolean
  /** Whether nothing of the container's inside is written so far. */
  private isFirst = true

  constructor(
    private readonly context: WriteContext,
    private readonly input: ListInput,
    private readonly form: ListForm,
  ) {
    this.isAttributes = input.kind === Kind.Attribute
    this.isMixed = SIDES.some((side) => holdsText(context.docs[side], input.lists[side]))
  }

  /** Writes a unit that only one side has. */
  single(side: Side, unit: number, separator: boolean): void {
    const list = this.list(side)
    const { writer } = this.context
    const goesOn = this.isAtHome(unit) && !list.startsLine(unit) && !writer.atLineStart()
    const fitted = !this.isMixed && !this.isAttributes && !goesOn
    if (fitted && this.form.multiline) {
      this.beginLine()
      this.partFromEntry(side, unit)
    }
    this.partFromComment(side, unit)
    if (!fitted) {
      if (this.isAttributes && list.start(unit) === list.own(unit)) writer.made(' ')
      this.unit(side, unit, separator)
    } else if (this.form.multiline !== list.startsLine(unit)) this.reshaped(side, unit, separator)
    else this.unit(side, unit, separator)
    this.noteEnding(side, unit)
  }

  /**
   * Where the text of a unit goes on, offset, after the blanks before it. On one line they belong to the place and
   * not to the unit: what one document has first may stand behind others in the result.
   */
  private begin(side: Side, unit: number): number {
    const list = this.list(side)
    const { isFirst } = this
    const isAtHome = this.isAtHome(unit) || list.startsLine(unit)
    this.isFirst = false
    if (isAtHome || this.isMixed || this.isAttributes || this.form.multiline)
      return list.start(unit)
    const blanks = this.blanksOnLine(isFirst ? 0 : 1)
    if (blanks === undefined) return list.start(unit)
    this.context.writer.made(blanks)
    return list.own(unit)
  }

  /** Whether a unit stands first in the result as in its document, or behind others in both. */
  private isAtHome(unit: number): boolean {
    return (unit === 0) === this.isFirst
  }

  /** What stands before a unit of a list on one line: as in mine, if mine has that many units. */
  private blanksOnLine(unit: number): string | undefined {
    for (const side of [MINE, NEW, OLD] as const) {
      const list = this.input.lists[side]
      if (list === undefined || list.length <= unit || list.startsLine(unit)) continue
      return list.tree.source.slice(list.start(unit), list.own(unit))
    }
    return undefined
  }

  /** A blank line before what stands first in its document and behind others here, where blank lines part all others. */
  private partFromEntry(side: Side, unit: number): void {
    if (unit > 0 || this.isFirst || this.blankLines(side, 0) > 0 || !this.isSpaced) return
    this.context.writer.made(this.context.lineEnd)
    this.context.endsInFreeComment = false
  }

  /** Whether all entries but the first stand behind a blank line, as mine has them; where mine has one alone, as vanilla does. */
  private get isSpaced(): boolean {
    const side = ([MINE, NEW, OLD] as const).find(
      (each) => (this.input.lists[each]?.length ?? 0) > 1,
    )
    if (side === undefined) return false
    return this.list(side).nodes.every((_, unit) => unit === 0 || this.blankLines(side, unit) > 0)
  }

  private blankLines(side: Side, unit: number): number {
    const list = this.list(side)
    return countLineEnds(list.tree.source, list.start(unit), list.own(unit))
  }

  /** A gap before an entry that would else be taken to own the comment written before it. */
  private partFromComment(side: Side, unit: number): void {
    const { context } = this
    if (!context.endsInFreeComment || this.isMixed || this.isAttributes) return
    if (this.list(side).isComment(unit) || !context.writer.atLineStart()) return
    if (this.blankLines(side, unit) === 0) context.writer.made(context.lineEnd)
    context.endsInFreeComment = false
  }

  private noteEnding(side: Side, unit: number): void {
    const list = this.list(side)
    this.context.wrote(side, list.node(unit))
    // an entry in a comment is no comment that what follows could take over
    if (list.isDormant(unit)) this.context.endsInFreeComment = false
  }

  /** A unit from a list on one line goes to lines of their own, or the other way round. */
  private reshaped(side: Side, unit: number, separator: boolean): void {
    const list = this.list(side)
    const { writer, lineEnd } = this.context
    const blanks = (): string => this.blanksOnLine(this.isFirst ? 0 : 1) ?? ' '
    writer.made(this.form.multiline ? this.form.indent : blanks())
    this.isFirst = false
    this.piece(side, list.own(unit), this.nodeEnd(side, unit))
    if (separator) writer.made(this.separator(side))
    const tail = tailText(list, unit)
    const keepsLineEnd = this.form.multiline || tail.trim() !== ''
    if (tail.trim() !== '') writer.made(tail.replace(/[\r\n\s]+$/, ''))
    if (keepsLineEnd) writer.made(lineEnd)
  }

  /** Writes a unit that new and mine have as one of them has it. */
  whole(units: Triple<number>, side: Side, { separator, follows }: Place): void {
    const unit = units[side]
    this.guardLine(side, unit)
    this.partFromComment(side, unit)
    const home = this.atHome(units, side, follows)
    if (home === side) this.unit(side, unit, separator, side !== MINE)
    else {
      this.blanks(home, units[home])
      this.unit(side, unit, separator, side !== MINE, this.list(side).own(unit))
    }
    this.noteEnding(side, unit)
  }

  /** Writes a unit that new and mine have part by part. */
  parts({ units, lead, own, entry, tail }: UnitParts, place: Place): void {
    const suited = this.suited(units, lead.lines)
    const start = this.atHome(units, suited, place.follows)
    this.lead(units, { lines: start, indent: suited === lead.lines ? lead.indent : suited })
    for (const piece of own) {
      if ('made' in piece) this.context.writer.made(piece.made)
      else if (piece.isShared === true)
        this.context.writer.slice(piece.side, piece.start, piece.end)
      else this.piece(piece.side, piece.start, piece.end)
    }
    if (entry === undefined) this.noteEnding(tail, units[tail])
    else {
      this.context.write(entry, this.fits)
      const end = this.suited(units, tail)
      const isOther = end !== tail && this.tailWords(units, end) === this.tailWords(units, tail)
      const by = this.besideNext(units, isOther ? end : tail, place)
      this.tail(by, units[by], place.separator)
    }
  }

  /** Of what both brought: the side that has it on a line of its own, if the result has its entries so, or on one line. */
  private suited(units: Triple<number>, side: Side): Side {
    if (units[OLD] >= 0 || this.isMixed || this.isAttributes) return side
    const isSuited = (each: Side): boolean =>
      units[each] >= 0 && this.list(each).startsLine(units[each]) === this.form.multiline
    const other = side === MINE ? NEW : MINE
    return !isSuited(side) && isSuited(other) ? other : side
  }

  /** The side whose blanks part an entry from that before it: where the two stand so in one side alone, its blank lines are kept. */
  private atHome(units: Triple<number>, side: Side, follows: (side: Side) => boolean): Side {
    if (this.isMixed || this.isAttributes || !this.form.multiline) return side
    const other = neighbourly(units, side, follows)
    if (other === side) return side
    const [here, there] = [this.leadText(side, units[side]), this.leadText(other, units[other])]
    const more = there.slice(0, there.length - here.length)
    return /[\r\n]$/.test(more) && there.endsWith(here) ? other : side
  }

  /** The side whose blanks part an entry from that behind it: beside texts they are content, and lost with another neighbour. */
  private besideNext(units: Triple<number>, side: Side, { precedes }: Place): Side {
    const other = this.isMixed ? neighbourly(units, side, precedes) : side
    const areBlank = [side, other].every((each) => this.tailWords(units, each) === '')
    return areBlank ? other : side
  }

  private leadText(side: Side, unit: number): string {
    const list = this.list(side)
    return list.tree.source.slice(list.start(unit), list.own(unit))
  }

  private tailWords(units: Triple<number>, side: Side): string {
    return tailText(this.list(side), units[side]).trim()
  }

  /** Writes nothing of a unit of mine but the comments above it. */
  ownCommentsOnly(unit: number): void {
    const list = this.list(MINE)
    const end = list.tree.end(surely(ownComments(list, unit).at(-1)))
    this.isFirst = false
    if (list.startsLine(unit)) this.beginLine()
    this.piece(
      MINE,
      list.start(unit),
      skipToLineStart(list.tree.source, end, this.nodeEnd(MINE, unit)),
    )
    this.context.endsInFreeComment = true
  }

  // Parts of a unit

  private lead(units: Triple<number>, { lines: side, indent }: Lead): void {
    const [list, unit] = [this.list(side), units[side]]
    this.guardLine(side, unit)
    this.partFromComment(side, unit)
    this.context.endsInFreeComment = false
    if (indent === side) this.blanks(side, unit)
    else {
      this.blanks(side, unit, list.indentStart(unit))
      const [other, at] = [this.list(indent), units[indent]]
      this.context.writer.slice(indent, other.indentStart(at), other.own(at))
    }
  }

  /** The blanks before a unit, up to an offset. */
  private blanks(side: Side, unit: number, end = this.list(side).own(unit)): void {
    this.context.writer.slice(side, this.begin(side, unit), end)
  }

  private tail(side: Side, unit: number, separator: boolean): void {
    const list = this.list(side)
    const at = list.separator(unit)
    const nodeEnd = this.nodeEnd(side, unit)
    const end = list.end(unit)
    if (separator && at < 0) this.context.writer.made(this.separator(side))
    if (at < 0 || separator) this.ending(side, nodeEnd, end)
    else {
      // blanks before a separator belong to it
      if (list.tree.source.slice(nodeEnd, at).trim() !== '') this.piece(side, nodeEnd, at)
      this.ending(side, at + 1, end)
    }
  }

  /** What stands up to the end of a unit: what comes behind its line end is not its own, and is not indented with it. */
  private ending(side: Side, start: number, end: number): void {
    const { source } = this.list(side).tree
    let stop = end
    while (stop > start && isLineEnd(source.charCodeAt(stop - 1))) stop--
    this.piece(side, start, stop)
    this.context.writer.slice(side, stop, end)
  }

  /** A whole unit of one side, with or without a separator, fitted where it is not at home. */
  private unit(
    side: Side,
    unit: number,
    separator: boolean,
    fitted = true,
    start = this.begin(side, unit),
  ): void {
    const list = this.list(side)
    const isAtLine = list.startsLine(unit) && start === list.start(unit)
    if (fitted) this.piece(side, start, this.nodeEnd(side, unit), isAtLine)
    else this.context.writer.slice(side, start, this.nodeEnd(side, unit))
    this.tail(side, unit, separator)
  }

  /** How what is not at home is fitted: beside text and among attributes as it is. */
  private get fits(): Fits {
    return this.isMixed || this.isAttributes ? NOTHING_FITTED : this.form.fits
  }

  private piece(side: Side, start: number, end: number, whole = false): void {
    const fit = this.fits[side]
    if (fit === undefined) this.context.writer.slice(side, start, end)
    else this.context.writer.made(fitText(this.list(side).tree, start, end, fit, whole))
  }

  private guardLine(side: Side, unit: number): void {
    const list = this.list(side)
    if (!this.isMixed && !this.isAttributes && list.startsLine(unit)) this.beginLine()
  }

  private beginLine(): void {
    if (!this.context.writer.atLineStart()) this.context.writer.made(this.context.lineEnd)
  }

  private separator(side: Side): string {
    return this.context.docs[side].format.separator
  }

  // Slices

  private list(side: Side): UnitList {
    return surely(this.input.lists[side])
  }

  private nodeEnd(side: Side, unit: number): number {
    return this.list(side).nodeEnd(unit)
  }
}

/** The other side where the neighbour that an entry has in the result is beside it there alone; else the side itself. */
function neighbourly(units: Triple<number>, side: Side, isBeside: Place['follows']): Side {
  const other = side === MINE ? NEW : MINE
  return units[other] >= 0 && !isBeside(side) && isBeside(other) ? other : side
}
