import type { UnitList } from '../document/unit-list.ts'
import type { Matching } from '../identity/matching.ts'
import { segmentOf } from '../identity/segment.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { joinKey } from '../keys/key.ts'
import type { Nodes } from './recorder.ts'

/** The entries of one container: their nodes in the three documents, and their keys. */
export class Entries {
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

  nodesOf(cls: number): Nodes {
    return triple((side) => this.matching.node(side, cls))
  }

  /** The key of a class: by mine, else new, else old; a renamed entry's is the one that the result has. */
  keyOf(cls: number): string {
    const sides: readonly Side[] = [MINE, NEW, OLD]
    let side = sides.find((each) => this.matching.unit(each, cls) >= 0) ?? OLD
    if (this.matching.renamed.has(cls) && this.renamedByVanilla(cls)) side = NEW
    return joinKey(this.key, segmentOf(this.matching, cls, side))
  }

  private renamedByVanilla(cls: number): boolean {
    const [old, fresh, mine] = triple((side) =>
      this.matching.unit(side, cls) < 0 ? undefined : segmentOf(this.matching, cls, side),
    )
    return fresh !== undefined && old === mine
  }
}
