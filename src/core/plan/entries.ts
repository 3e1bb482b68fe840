import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import { joinKey, withOccurrence } from '../keys/key.ts'
import { segmentOf } from '../match/key-segment.ts'
import type { Matching } from '../match/matching.ts'
import type { Nodes } from './telling.ts'

/** The entries of one container: their nodes in the three documents, and their keys. */
export class Entries {
  private segments: Map<number, string> | undefined

  constructor(
    readonly matching: Matching,
    readonly lists: Triple<UnitList | undefined>,
    /** The key of the container. */
    private readonly key: string,
  ) {}

  /** Whether a class is a comment that belongs to no entry. */
  isComment(cls: number): boolean {
    for (const side of SIDES) {
      const unit = this.matching.unit(side, cls)
      if (unit >= 0) return this.lists[side]?.isComment(unit) === true
    }
    return false
  }

  /** The nodes of a class; -1 also where it stands in comments. */
  nodesOf(cls: number): Nodes {
    return triple((side) =>
      this.matching.dormantEntry(side, cls) === undefined ? this.matching.node(side, cls) : -1,
    )
  }

  /** The key of a class, which no other has: by mine, else new, else old; a renamed entry's is the one that the result has. */
  keyOf(cls: number): string {
    if (this.matching.isAllNamed) return joinKey(this.key, this.ownSegment(cls))
    this.segments ??= this.tellApart()
    return joinKey(this.key, this.segments.get(cls) ?? this.ownSegment(cls))
  }

  /** The segments of all classes: of those that have one in common mine's first keeps it, the others are numbered. */
  private tellApart(): Map<number, string> {
    const segments = new Map<number, string>()
    const taken = new Set<string>()
    const last = new Map<string, number>()
    for (const side of [MINE, NEW, OLD] as const)
      for (const cls of this.matching.classOf[side]) {
        if (segments.has(cls) || this.isComment(cls)) continue
        const own = this.ownSegment(cls)
        let occurrence = (last.get(own) ?? 0) + 1
        while (taken.has(withOccurrence(own, occurrence))) occurrence++
        last.set(own, occurrence)
        const segment = withOccurrence(own, occurrence)
        taken.add(segment)
        segments.set(cls, segment)
      }
    return segments
  }

  private ownSegment(cls: number): string {
    const sides: readonly Side[] = [MINE, NEW, OLD]
    let side = sides.find((each) => this.matching.unit(each, cls) >= 0) ?? OLD
    if (this.matching.renamed.has(cls) && this.renamedByVanilla(cls)) side = NEW
    return segmentOf(this.matching, cls, side)
  }

  private renamedByVanilla(cls: number): boolean {
    const [old, fresh, mine] = triple((side) =>
      this.matching.unit(side, cls) < 0 ? undefined : segmentOf(this.matching, cls, side),
    )
    return fresh !== undefined && old === mine
  }
}
