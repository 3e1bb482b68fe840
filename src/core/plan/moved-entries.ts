import { cutUnits } from '../document/cut-units.ts'
import { gather } from '../document/gather.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import type { Replaced, Spliced } from '../document/splice.ts'
import { splice } from '../document/splice.ts'
import type { Doc } from '../formats/doc.ts'
import type { DroppedAway, Moved, MovedAway } from '../match/moved-away.ts'

/** An entry that a side moved to another container, and its text with the other side's edits. */
export interface FollowedEntry extends MovedAway {
  text: string
}

const NOT_DROPPED: Omit<Moved, 'edited'> = { dropped: [], namesakes: new Map() }

/** What a merge knows of entries that stand in another container than in old. */
export class MovedEntries {
  /** Nodes of old that went elsewhere. */
  private readonly left = new Set<number>()
  /** Where such entries begin in the document of the side that moved them: offsets in UTF-16 code units. */
  private readonly arrivals: Triple<Set<number>> = [new Set(), new Set(), new Set()]
  /** Of entries that both moved to one container, by where they begin in new: the node of old. */
  private readonly origins = new Map<number, number>()

  /** Where entries of a side that are asked begin in its source, as it is read again: offsets in UTF-16 code units. */
  private readonly starts: Triple<Map<number, number>> = [new Map(), new Map(), new Map()]
  /** Of entries of old that one side moved and the other dropped, which is asked: where each stands now. */
  private readonly now = new Map<number, DroppedAway>()

  private readonly dropped: readonly DroppedAway[]
  private readonly namesakes: Moved['namesakes']

  /** @param followed the entries that were edited, with these edits */
  constructor(
    private readonly followed: readonly FollowedEntry[],
    { dropped, namesakes }: Omit<Moved, 'edited'> = NOT_DROPPED,
  ) {
    this.dropped = dropped
    this.namesakes = namesakes
    for (const { nodes } of followed) this.left.add(nodes[OLD])
    for (const each of dropped)
      if (each.isAsked) this.now.set(each.nodes[OLD], each)
      else this.left.add(each.nodes[OLD])
  }

  /** The key of what has the name of an entry of old in another container, if it is not taken for the same. */
  namesakeOf(old: number): string | undefined {
    return this.namesakes.get(old)
  }

  /** Where an entry of old stands that one side dropped and the other moved and changed; once the sources are read again. */
  movedTo(old: number, docs: Triple<Doc>): DroppedAway | undefined {
    const now = this.now.get(old)
    if (now === undefined) return undefined
    const side = now.by === 'vanilla' ? NEW : MINE
    const at = this.starts[side].get(now.nodes[side])
    const node = at === undefined ? -1 : docs[side].tree.lastBefore(at + 1)
    return { ...now, nodes: [old, side === NEW ? node : -1, side === MINE ? node : -1] }
  }

  /** Whether an entry of old stands in another container now, and is told of there. */
  hasLeft(old: number): boolean {
    return this.left.has(old)
  }

  /** Whether an entry that only one side has came from another container. */
  hasArrived(side: Side, doc: Doc, node: number): boolean {
    return this.arrivals[side].has(doc.tree.start(node))
  }

  /** The entry of old that both moved to one container; -1 for another. */
  originOf(doc: Doc, fresh: number): number {
    if (fresh < 0) return -1
    return this.origins.get(doc.tree.start(fresh)) ?? -1
  }

  /** The source of a side, with what it moved as the other side has edited it, and without what that dropped. */
  sourceOf(side: typeof NEW | typeof MINE, doc: Doc): Spliced {
    const parts = [...this.edited(side, doc), ...this.cuts(side, doc), ...this.asked(side, doc)]
    return splice(doc.tree.source, parts)
  }

  private edited(side: typeof NEW | typeof MINE, doc: Doc): Replaced[] {
    const own = ownerOf(side)
    const moved = this.followed.filter(({ by }) => by === own || (by === 'both' && side === NEW))
    return moved.map(({ nodes, by, text }) => ({
      start: doc.tree.start(nodes[side]),
      end: doc.tree.end(nodes[side]),
      text: by === 'both' ? doc.slice(nodes[side]) : text,
      standsAt: (offset) => {
        if (by === 'both') this.origins.set(offset, nodes[OLD])
        else this.arrivals[side].add(offset)
      },
    }))
  }

  /** What is asked stays as it is. */
  private asked(side: typeof NEW | typeof MINE, doc: Doc): Replaced[] {
    const own = this.dropped.filter(({ by, isAsked }) => by === ownerOf(side) && isAsked)
    return own.map(({ nodes }) => ({
      start: doc.tree.start(nodes[side]),
      end: doc.tree.end(nodes[side]),
      text: doc.slice(nodes[side]),
      standsAt: (offset) => this.starts[side].set(nodes[side], offset),
    }))
  }

  private cuts(side: typeof NEW | typeof MINE, doc: Doc): Replaced[] {
    const byContainer = new Map<number, number[]>()
    for (const { by, nodes, container, isAsked } of this.dropped)
      if (by === ownerOf(side) && !isAsked) gather(byContainer, container, nodes[side])
    return [...byContainer].flatMap(([container, entries]) =>
      cutUnits(doc.tree, container, doc.format.separator, new Set(entries)).map((span) => ({
        ...span,
        text: '',
      })),
    )
  }
}

function ownerOf(side: typeof NEW | typeof MINE): 'vanilla' | 'mine' {
  return side === NEW ? 'vanilla' : 'mine'
}

export const NOTHING_MOVED = new MovedEntries([])
