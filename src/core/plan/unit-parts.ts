import { pickForm } from '../document/line-ends.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import { carryProblems } from './carry-problems.ts'
import { ownComments, pickComments, trailingComments } from './comments.ts'
import type { Piece, Plan, UnitParts } from './plan.ts'
import type { Telling } from './telling.ts'

/** Chooses whose parts a unit has that new and mine have: blanks, own comments, what follows the node. */
export class UnitPlanner {
  constructor(
    private readonly docs: Triple<Doc>,
    private readonly lists: Triple<UnitList | undefined>,
  ) {}

  /** The whole text of a unit; undefined where there is none. */
  text(side: Side, unit: number): string | undefined {
    return this.slice(side, unit, 'start', 'end')
  }

  /** The parts of an entry. */
  merged(units: Triple<number>, entry: Plan): UnitParts {
    const own = this.own(units)
    const tail = this.tail(units)
    return {
      lead: this.lead(units),
      own: own.pieces,
      entry,
      tail: tail.side,
      lost: [...own.lost, ...tail.lost],
    }
  }

  /** The parts of a comment that belongs to no entry. */
  comment(units: Triple<number>): UnitParts {
    const bodies = triple((side) => this.slice(side, units[side], 'own', 'end'))
    const comments = triple((side) =>
      units[side] < 0
        ? undefined
        : [this.list(side).node(units[side]), ...trailingComments(this.list(side), units[side])],
    )
    const { side, lost } = pickComments(this.docs, comments, bodies)
    const list = this.list(side)
    return {
      lead: this.lead(units),
      own: [{ side, start: list.own(units[side]), end: list.end(units[side]) }],
      entry: undefined,
      tail: side,
      lost: this.losses(lost),
    }
  }

  private lead(units: Triple<number>): Side {
    return pickForm(triple((side) => this.slice(side, units[side], 'start', 'own'))) ?? MINE
  }

  private own(units: Triple<number>): { pieces: Piece[]; lost: Telling[] } {
    const comments = triple((side) =>
      units[side] < 0 ? undefined : ownComments(this.list(side), units[side]),
    )
    const counts = new Set(comments.map((each) => each?.length))
    if (counts.size === 1 && (comments[MINE]?.length ?? 0) > 1) {
      const each = (comments[MINE] ?? []).map((_, at) => this.ownComment(units, comments, at))
      return {
        pieces: each.map(({ piece }) => piece),
        lost: each.flatMap(({ lost }) => lost),
      }
    }
    const raw = triple((side) => this.slice(side, units[side], 'own', 'node'))
    const { side, lost } = pickComments(this.docs, comments, raw)
    const list = this.list(side)
    const unit = units[side]
    const piece = { side, start: list.own(unit), end: list.tree.start(list.node(unit)) }
    return { pieces: [piece], lost: this.losses(lost) }
  }

  /** One of the comments above an entry, and what stands before the next: where all have as many, each is chosen by itself. */
  private ownComment(
    units: Triple<number>,
    comments: Triple<readonly number[] | undefined>,
    at: number,
  ): { piece: Piece; lost: Telling[] } {
    const pieces = triple((side): Piece => {
      const list = this.list(side)
      const unit = units[side]
      const [comment, next] = (comments[side] ?? []).slice(at, at + 2)
      const { tree } = list
      return {
        side,
        start: at === 0 || comment === undefined ? list.own(unit) : tree.start(comment),
        end: tree.start(next ?? list.node(unit)),
      }
    })
    const picked = pickComments(
      this.docs,
      triple((side) => comments[side]?.slice(at, at + 1)),
      triple((side) => this.list(side).tree.source.slice(pieces[side].start, pieces[side].end)),
    )
    return { piece: pieces[picked.side], lost: this.losses(picked.lost) }
  }

  private tail(units: Triple<number>): { side: Side; lost: Telling[] } {
    const raw = triple((side) =>
      units[side] < 0 ? undefined : tailText(this.list(side), units[side]),
    )
    const comments = triple((side) =>
      units[side] < 0 ? undefined : trailingComments(this.list(side), units[side]),
    )
    const { side, lost } = pickComments(this.docs, comments, raw)
    return { side, lost: this.losses(lost) }
  }

  private losses(comments: readonly number[]): Telling[] {
    return comments.map((comment) => ({
      tell: 'loss',
      problem: carryProblems.commentQuoted(this.docs[NEW], comment, NEW),
    }))
  }

  private list(side: Side): UnitList {
    const list = this.lists[side]
    if (list === undefined) throw new RangeError(`no list on side ${side}`)
    return list
  }

  private slice(
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
}

/** What follows a unit's node, its separator left out. */
export function tailText(list: UnitList, unit: number): string {
  const { source } = list.tree
  const at = list.separator(unit)
  const nodeEnd = list.tree.end(list.node(unit))
  if (at < 0) return source.slice(nodeEnd, list.end(unit))
  return source.slice(nodeEnd, at) + source.slice(at + 1, list.end(unit))
}
