import { foldBlanks, isBlank, isLineEnd } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import { pickSide } from '../document/pick.ts'
import type { Span } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Doc } from '../formats/doc.ts'
import type { LineRegion } from '../likeness/line-regions.ts'
import { lineRegions } from '../likeness/line-regions.ts'
import { pickComments } from './comments.ts'
import type { Piece, Stretch } from './plan.ts'

/** Comments that follow each other without a blank line, and the stretch of the document that is theirs. */
export interface CommentBlock extends Span {
  comments: readonly number[]
}

/** What stands of the comments of three documents, and which of vanilla's do not. */
export interface MergedBlock {
  pieces: Piece[]
  lost: readonly number[]
}

type Blocks = Triple<CommentBlock | undefined>

/**
 * Merges blocks of comments three-way. Comments are never in conflict: where both sides rewrote a block, its lines
 * are merged, and where both rewrote one line mine's stands and vanilla's is lost.
 */
export function mergeBlocks(docs: Triple<Doc>, blocks: Blocks): MergedBlock {
  const raw = triple((side) => {
    const block = blocks[side]
    return block === undefined ? undefined : docs[side].tree.source.slice(block.start, block.end)
  })
  const { side, lost, areBothRewritten } = pickComments(
    docs,
    triple((each) => blocks[each]?.comments),
    raw,
  )
  const byLines =
    areBothRewritten && blocks[OLD] !== undefined
      ? new BlockLines(docs, blocks).merged()
      : undefined
  if (byLines !== undefined) return byLines
  const block = blocks[side]
  if (block === undefined) return { pieces: [], lost }
  const isShared = raw[NEW] === raw[MINE]
  return { pieces: [{ side, start: block.start, end: block.end, isShared }], lost }
}

/** One line of a block in the result. */
interface Chosen {
  side: Side
  at: number
}

/** Blocks whose comments stand on lines of their own, line by line. */
class BlockLines {
  private readonly lines: Triple<readonly Span[]>
  private readonly forms: Triple<string[]>

  constructor(
    private readonly docs: Triple<Doc>,
    private readonly blocks: Blocks,
  ) {
    this.lines = triple((side) => this.linesOf(side))
    this.forms = triple((side) => this.lines[side].map((line) => foldBlanks(this.text(side, line))))
  }

  /** Undefined where the blocks do not stand on lines of their own, or their lines do not fit together. */
  merged(): MergedBlock | undefined {
    if (!SIDES.every((side) => this.standsAlone(side))) return undefined
    const { chosen, clashes } = this.choose(this.forms)
    const forms = chosen.map(({ side, at }) => surely(this.forms[side][at]))
    const again = this.choose([this.forms[OLD], this.forms[NEW], forms])
    const repeated = again.chosen.map(({ side, at }) =>
      side === MINE ? forms[at] : this.forms[side][at],
    )
    if (repeated.join('\n') !== forms.join('\n') || this.isLosing(forms)) return undefined
    const pieces = this.pieces(chosen)
    return this.areComments(pieces) ? { pieces, lost: this.lost(clashes) } : undefined
  }

  /** Whether a line that both sides have is not in the result: one moved it to where the other put lines of its own. */
  private isLosing(result: readonly string[]): boolean {
    const [, fresh, mine] = this.forms
    return fresh.some((line) => mine.includes(line) && !result.includes(line))
  }

  private standsAlone(side: Side): boolean {
    const block = this.blocks[side]
    const last = block?.comments.at(-1)
    if (block === undefined || last === undefined) return true
    const { source } = this.docs[side].tree
    let at = this.docs[side].tree.end(last)
    while (isBlank(source.charCodeAt(at)) && !isLineEnd(source.charCodeAt(at))) at++
    return at >= block.end || isLineEnd(source.charCodeAt(at))
  }

  /** The lines of a block without their indentation and line end; blank ones are left out. */
  private linesOf(side: Side): Span[] {
    const block = this.blocks[side]
    const last = block?.comments.at(-1)
    if (block === undefined || last === undefined) return []
    const { tree } = this.docs[side]
    const lines: Span[] = []
    for (const match of tree.source.slice(block.start, tree.end(last)).matchAll(/[^\r\n]+/g)) {
      const indent = match[0].length - match[0].trimStart().length
      const start = block.start + match.index + indent
      const end = block.start + match.index + match[0].trimEnd().length
      if (start < end) lines.push({ start, end })
    }
    return lines
  }

  private text(side: Side, { start, end }: Span): string {
    return this.docs[side].tree.source.slice(start, end)
  }

  /** Which lines the result has, and where both sides rewrote the same. */
  private choose(forms: Triple<string[]>): { chosen: Chosen[]; clashes: LineRegion[] } {
    const regions = lineRegions(forms, 'overlapping')
    const chosen: Chosen[] = []
    let at: Triple<number> = [0, 0, 0]
    const takeShared = (until: number): void => {
      for (; at[OLD] < until; at = [at[OLD] + 1, at[NEW] + 1, at[MINE] + 1])
        chosen.push({ side: MINE, at: at[MINE] })
    }
    for (const { old, new: fresh, mine, by } of regions) {
      takeShared(old[0])
      const side = by === 'vanilla' ? NEW : MINE
      const [start, end] = side === NEW ? fresh : mine
      for (let line = start; line < end; line++) chosen.push({ side, at: line })
      at = [old[1], fresh[1], mine[1]]
    }
    takeShared(forms[OLD].length)
    return { chosen, clashes: regions.filter(({ by }) => by === 'clash') }
  }

  /** The lines with what stands between them, and what follows the block. */
  private pieces(chosen: readonly Chosen[]): Piece[] {
    const pieces: Piece[] = []
    for (const [i, line] of chosen.entries()) {
      pieces.push({ side: line.side, ...surely(this.lines[line.side][line.at]) })
      const next = chosen[i + 1]
      pieces.push(next === undefined ? this.tail() : this.gap(line, next))
    }
    return pieces
  }

  /** What stands between two lines: as behind the first in its document, or before the second one. */
  private gap(line: Chosen, next: Chosen): Piece {
    return (
      this.between(line.side, line.at) ??
      this.between(next.side, next.at - 1) ??
      SIDES.map((side) => this.between(side, 0)).find((gap) => gap !== undefined) ?? { made: '\n' }
    )
  }

  private between(side: Side, at: number): Stretch | undefined {
    const [before, behind] = [this.lines[side][at], this.lines[side][at + 1]]
    if (before === undefined || behind === undefined) return undefined
    return { side, start: before.end, end: behind.start }
  }

  private tail(): Stretch {
    const tails = triple((side) => this.tailOf(side))
    const side =
      pickSide(
        triple((each) => (tails[each] === undefined ? undefined : this.text(each, tails[each]))),
      ) ?? MINE
    return { side, ...(tails[side] ?? { start: 0, end: 0 }) }
  }

  private tailOf(side: Side): Span | undefined {
    const block = this.blocks[side]
    const last = this.lines[side].at(-1)
    return block === undefined || last === undefined
      ? undefined
      : { start: last.end, end: block.end }
  }

  /** Whether the lines together are comments again: in XML a comment goes on over lines. */
  private areComments(pieces: readonly Piece[]): boolean {
    const text = pieces
      .map((piece) => ('made' in piece ? piece.made : this.text(piece.side, piece)))
      .join('')
    const { format, reader } = this.docs[MINE]
    const { tree, problems } = reader.read(format.amongComments(text))
    const around = reader.read(format.amongComments('')).tree
    let others = 0
    for (let node = 1; node < tree.length; node++) if (tree.kind(node) !== Kind.Comment) others++
    return problems.length === 0 && others === around.length - 1
  }

  /** Vanilla's comments of which a line is in no other block. */
  private lost(clashes: readonly LineRegion[]): number[] {
    const kept = new Set([...this.forms[OLD], ...this.forms[MINE]])
    const lines = clashes.flatMap(({ new: [start, end] }) =>
      this.lines[NEW].slice(start, end).filter(
        (_, i) => !kept.has(surely(this.forms[NEW][start + i])),
      ),
    )
    const { tree } = this.docs[NEW]
    return surely(this.blocks[NEW]).comments.filter((comment) =>
      lines.some(({ start }) => start >= tree.start(comment) && start < tree.end(comment)),
    )
  }
}
