import { Kind } from '../document/kind.ts'
import { pickForm } from '../document/line-ends.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import { surely } from '../document/surely.ts'
import type { Doc } from '../formats/doc.ts'
import type { CommentBlock } from './comment-block.ts'
import { mergeBlocks } from './comment-block.ts'
import {
  ownComments,
  pickComments,
  saidBy,
  sayingElse,
  trailingComments,
  unitComments,
} from './comments.ts'
import type { PlanContext } from './context.ts'
import type { Lead, Piece, Plan, Telling, UnitParts } from './plan.ts'
import type { Nodes } from './telling.ts'
import { NOTHING_TOLD } from './plan.ts'
import { quoted } from './quoted-comments.ts'

/** Comments that were merged, and what is told of those that are lost. */
interface OwnParts {
  pieces: Piece[]
  lost: Telling[]
}

/** Chooses whose parts a unit has that new and mine have: blanks, own comments, what follows the node. */
export class UnitPlanner {
  private readonly docs: Triple<Doc>
  /** The side that has the text among its units that the result has. */
  private readonly withText: Side | undefined

  constructor(
    private readonly context: Pick<PlanContext, 'docs' | 'areBroughtByBoth'>,
    private readonly lists: Triple<UnitList | undefined>,
  ) {
    this.docs = context.docs
    this.withText = sideWithText(context.docs, lists)
  }

  /** Whether the result has a text among its units. */
  get isBesideText(): boolean {
    return this.withText !== undefined
  }

  /** The whole text of a unit; undefined where there is none. */
  text(side: Side, unit: number): string | undefined {
    return this.slice(side, unit, 'start', 'end')
  }

  /** The parts of an entry. */
  merged(units: Triple<number>, entry: Plan): UnitParts {
    const own = this.own(units)
    const tail = this.tail(units)
    return {
      units,
      lead: this.lead(units),
      own: own.pieces,
      entry,
      tail: tail.side,
      lost: [...own.lost, ...tail.lost],
    }
  }

  /** The parts of a block of comments that belongs to no entry. */
  comment(units: Triple<number>): UnitParts {
    const merged = this.blocks(units, wordBlock)
    return this.words(units, merged, units[MINE] >= 0 ? MINE : NEW)
  }

  /** The texts of the comments that the result has above an entry, or of a block, that new and mine have. */
  commentsLeft(units: Triple<number>): string[] {
    const blocks = triple((side) => {
      if (units[side] < 0) return undefined
      const list = this.list(side)
      return list.isComment(units[side])
        ? wordBlock(list, units[side])
        : ownBlock(list, units[side])
    })
    return mergeBlocks(this.docs, blocks).pieces.flatMap((piece) => {
      if ('made' in piece) return []
      const doc = this.docs[piece.side]
      const isIn = (comment: number): boolean =>
        doc.tree.start(comment) >= piece.start && doc.tree.end(comment) <= piece.end
      const comments = surely(blocks[piece.side]).comments.filter(isIn)
      return comments.map((comment) => doc.commentText(comment))
    })
  }

  /**
   * The parts of an entry that stands in comments in some document: its own comments are merged, the entry is as
   * one side has it, live or dormant. Live in no document it is a comment like those above it.
   */
  dormant(units: Triple<number>, nodes: Nodes, stands: Side): UnitParts {
    const isDormant = triple((side) => units[side] >= 0 && this.list(side).isDormant(units[side]))
    const isLiveInOld = units[OLD] >= 0 && !isDormant[OLD]
    if (isDormant[NEW] && isDormant[MINE] && !isLiveInOld) return this.dormantInBoth(units)
    const { pieces, lost } = this.own(units)
    const shared = { units, lead: this.lead(units), tail: stands, lost }
    if (!isDormant[stands]) {
      const entry: Plan = { do: 'take', side: stands, nodes, told: NOTHING_TOLD }
      return { ...shared, own: pieces, entry }
    }
    const list = this.list(stands)
    const start = list.tree.start(list.node(units[stands]))
    const end = list.end(units[stands])
    return { ...shared, own: [...pieces, { side: stands, start, end }], entry: undefined }
  }

  private dormantInBoth(units: Triple<number>): UnitParts {
    const merged = this.blocks(units, (list, unit) => {
      const own = ownBlock(list, unit)
      if (!list.isDormant(unit)) return own
      const comments = [...own.comments, ...unitComments(list, unit)]
      return { ...own, comments, end: list.end(unit) }
    })
    return this.words(units, merged, MINE)
  }

  /** The parts of a unit that is comments and nothing else. */
  private words(units: Triple<number>, { pieces, lost }: OwnParts, tail: Side): UnitParts {
    return { units, lead: this.lead(units), own: pieces, entry: undefined, tail, lost }
  }

  private lead(units: Triple<number>): Lead {
    const beside = this.besideText(units)
    if (beside !== undefined) return { lines: beside, indent: beside }
    const picked = (from: 'start' | 'indentStart', to: 'indentStart' | 'own'): Side =>
      pickForm(triple((side) => this.slice(side, units[side], from, to))) ?? MINE
    // on one line all blanks are the entry's, and what a file begins with is form of the file
    const isWhole = SIDES.some((side) => {
      const unit = units[side]
      if (unit < 0) return false
      const list = this.list(side)
      return !list.startsLine(unit) || list.start(unit) === 0
    })
    if (isWhole) {
      const side = picked('start', 'own')
      return { lines: side, indent: side }
    }
    return { lines: picked('start', 'indentStart'), indent: picked('indentStart', 'own') }
  }

  /** Beside a text blanks are content: they are as the side has them that has the text. */
  private besideText(units: Triple<number>): Side | undefined {
    const side = this.withText
    return side !== undefined && units[side] >= 0 ? side : undefined
  }

  private own(units: Triple<number>): OwnParts {
    const mine = units[MINE] < 0 ? undefined : ownBlock(this.list(MINE), units[MINE])
    if (mine !== undefined && this.isElsewhereInMine(units, mine))
      return { pieces: [{ side: MINE, start: mine.start, end: mine.end }], lost: [] }
    return this.blocks(units, ownBlock)
  }

  private blocks(
    units: Triple<number>,
    blockOf: (list: UnitList, unit: number) => CommentBlock,
  ): OwnParts {
    const { pieces, lost } = mergeBlocks(
      this.docs,
      triple((side) => (units[side] < 0 ? undefined : blockOf(this.list(side), units[side]))),
    )
    return { pieces, lost: this.losses(lost) }
  }

  /** Whether what new has above an entry stands in mine, and one comment at least, which both brought, elsewhere. */
  private isElsewhereInMine(units: Triple<number>, { comments }: CommentBlock): boolean {
    if (units[NEW] < 0) return false
    const [, fresh, mine] = this.docs
    const own = ownComments(this.list(NEW), units[NEW])
    const apart = sayingElse(fresh, own, saidBy(mine, comments))
    return apart.length > 0 && this.context.areBroughtByBoth(apart)
  }

  private tail(units: Triple<number>): { side: Side; lost: Telling[] } {
    const raw = triple((side) =>
      units[side] < 0 ? undefined : tailText(this.list(side), units[side]),
    )
    const comments = triple((side) =>
      units[side] < 0 ? undefined : trailingComments(this.list(side), units[side]),
    )
    const { side, lost } = pickComments(this.docs, comments, raw)
    const beside = this.besideText(units) ?? side
    const hasNone = [side, beside].every((each) => comments[each]?.length === 0)
    return { side: hasNone ? beside : side, lost: this.losses(lost) }
  }

  private losses(comments: readonly number[]): Telling[] {
    return quoted(this.docs[NEW], NEW, comments)
  }

  private list(side: Side): UnitList {
    return surely(this.lists[side])
  }

  private slice(
    side: Side,
    unit: number,
    from: 'start' | 'indentStart',
    to: 'indentStart' | 'own' | 'end',
  ): string | undefined {
    if (unit < 0) return undefined
    const list = this.list(side)
    return list.tree.source.slice(list[from](unit), list[to](unit))
  }
}

/** The side whose text, among elements, the result has: mine, if it has one; undefined where one side dropped it. */
export function sideWithText(
  docs: Triple<Doc>,
  lists: Triple<UnitList | undefined>,
): Side | undefined {
  const [old, fresh, mine] = triple((side) => holdsText(docs[side], lists[side]))
  if (old && !(fresh && mine)) return undefined
  return mine ? MINE : fresh ? NEW : undefined
}

/** Whether a text stands beside elements in a list. */
export function holdsText(doc: Doc, list: UnitList | undefined): boolean {
  return list?.nodes.some((node) => doc.kind(node) === Kind.Text) === true
}

/** The comments that a unit is, with those on its last line. */
function wordBlock(list: UnitList, unit: number): CommentBlock {
  const comments = [...unitComments(list, unit), ...trailingComments(list, unit)]
  return { comments, start: list.own(unit), end: list.end(unit) }
}

/** The comments directly above a unit's node. */
function ownBlock(list: UnitList, unit: number): CommentBlock {
  const end = list.tree.start(list.node(unit))
  return { comments: ownComments(list, unit), start: list.own(unit), end }
}

/** What follows a unit's node, its separator left out. */
export function tailText(list: UnitList, unit: number): string {
  const { source } = list.tree
  const at = list.separator(unit)
  const nodeEnd = list.nodeEnd(unit)
  if (at < 0) return source.slice(nodeEnd, list.end(unit))
  return source.slice(nodeEnd, at) + source.slice(at + 1, list.end(unit))
}
