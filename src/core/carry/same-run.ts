import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Matching } from '../identity/matching.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/** Shorter lists are written entry by entry. */
const LEAST_LENGTH = 32

/** Entries that need no more than their text to be written; a section may end in a comment of its own. */
const PLAIN: ReadonlySet<number> = new Set([
  Kind.Element,
  Kind.Object,
  Kind.Array,
  Kind.Scalar,
  Kind.Member,
])

/**
 * Finds entries that follow each other in all documents with the same text, which are written as one
 * stretch: most of a big container is so.
 */
export class SameRuns {
  private readonly lists: Triple<UnitList> | undefined

  /** @param separator what stands between entries, or '': each of a run has to have one */
  constructor(
    private readonly matching: Matching,
    private readonly separator: string,
  ) {
    const [old, fresh, mine] = matching.lists
    const are = old !== undefined && fresh !== undefined && mine !== undefined
    this.lists = are && mine.length >= LEAST_LENGTH ? [old, fresh, mine] : undefined
  }

  /** Whether the lists are long enough to look for runs. */
  get isWorthwhile(): boolean {
    return this.lists !== undefined
  }

  /** How many of the classes from `at` to before `stop` are such a run; 0 where there are not two. */
  lengthAt(classes: readonly number[], at: number, stop: number): number {
    if (this.lists === undefined) return 0
    const [old, fresh, mine] = this.lists
    const { matching } = this
    const first = classes[at] ?? -1
    const [a, b, c] = [
      matching.unit(OLD, first),
      matching.unit(NEW, first),
      matching.unit(MINE, first),
    ]
    if (a < 0 || b < 0 || c < 0) return 0
    const stopNew = stopOfCopy(old, a, fresh, b)
    const stopMine = stopOfCopy(old, a, mine, c)
    let count = 0
    while (at + count < stop) {
      const cls = classes[at + count] ?? -1
      if (matching.unit(OLD, cls) !== a + count) break
      if (matching.unit(NEW, cls) !== b + count || matching.unit(MINE, cls) !== c + count) break
      if ((fresh.node[b + count] ?? 0) >= stopNew || (mine.node[c + count] ?? 0) >= stopMine) break
      if (!PLAIN.has(old.tree.kind[old.node[a + count] ?? 0] ?? 0)) break
      if (matching.renamed.has(cls)) break
      if (this.separator !== '' && (mine.separator[c + count] ?? -1) < 0) break
      count++
    }
    // between the nodes of a run the text is the same; before its first and after its last it need not be
    if (count < 2 || !this.isSameLead(a, b, c)) return 0
    return this.isSameTail(a + count - 1, b + count - 1, c + count - 1) ? count : count - 1
  }

  private isSameLead(a: number, b: number, c: number): boolean {
    const [old, fresh, mine] = this.lists ?? []
    const lead = textBefore(old, a)
    return lead === textBefore(fresh, b) && lead === textBefore(mine, c)
  }

  private isSameTail(a: number, b: number, c: number): boolean {
    const [old, fresh, mine] = this.lists ?? []
    const tail = textBehind(old, a)
    return tail === textBehind(fresh, b) && tail === textBehind(mine, c)
  }
}

/** The node after those that were copied with a unit's; 0 where it was not copied from the unit of old. */
function stopOfCopy(old: UnitList, unit: number, list: UnitList, other: number): number {
  const node = list.node[other] ?? 0
  if (list.tree === old.tree) return unit === other ? old.tree.length : 0
  return list.tree.originOf(node, old.tree) === old.node[unit] ? list.tree.copyStop(node) : 0
}

function textBefore(list: UnitList | undefined, unit: number): string | undefined {
  return list?.tree.source.slice(list.start[unit], list.tree.start[list.node[unit] ?? 0])
}

function textBehind(list: UnitList | undefined, unit: number): string | undefined {
  return list?.tree.source.slice(list.tree.end[list.node[unit] ?? 0], list.end[unit])
}
