import type { MINE, Side, Triple } from '../document/sides.ts'
import { NEW, OLD } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { MovedAway } from '../match/moved-away.ts'

/** An entry that a side moved to another container, and its text with the other side's edits. */
export interface FollowedEntry extends MovedAway {
  text: string
}

/** What a merge knows of entries that stand in another container than in old. */
export class MovedEntries {
  /** Nodes of old that went elsewhere. */
  private readonly left = new Set<number>()
  /** Where such entries begin in the document of the side that moved them: offsets in UTF-16 code units. */
  private readonly arrivals: Triple<Set<number>> = [new Set(), new Set(), new Set()]
  /** Of entries that both moved to one container, by where they begin in new: the node of old. */
  private readonly origins = new Map<number, number>()

  constructor(readonly followed: readonly FollowedEntry[]) {
    for (const { nodes } of followed) this.left.add(nodes[OLD])
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
    if (fresh < 0 || this.origins.size === 0) return -1
    return this.origins.get(doc.tree.start(fresh)) ?? -1
  }

  /** The source of a side, with what it moved as the other side has edited it. */
  sourceOf(side: typeof NEW | typeof MINE, doc: Doc): string {
    const own = side === NEW ? 'vanilla' : 'mine'
    const moved = this.followed.filter(({ by }) => by === own || (by === 'both' && side === NEW))
    moved.sort((a, b) => a.nodes[side] - b.nodes[side])
    const { source } = doc.tree
    let [text, at] = ['', 0]
    for (const { nodes, by, text: entry } of moved) {
      text += source.slice(at, doc.tree.start(nodes[side]))
      if (by === 'both') this.origins.set(text.length, nodes[OLD])
      else this.arrivals[side].add(text.length)
      text += by === 'both' ? doc.slice(nodes[side]) : entry
      at = doc.tree.end(nodes[side])
    }
    return text + source.slice(at)
  }
}

export const NOTHING_MOVED = new MovedEntries([])
