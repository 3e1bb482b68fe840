import { firstNotBefore } from '../document/ascending.ts'
import { longestIncreasing } from '../likeness/rising.ts'

/** An entry that has another partner by its number than otherwise. */
export interface Dispute {
  a: number
  /** Its partner otherwise. */
  b: number
  /** Its partner by its number, if it has any. */
  byNumber: number | undefined
  /** The entry of the first document that has the number that the other partner has, if any does. */
  handedFrom: number | undefined
}

/** What two containers of one rank hold, in order. */
export interface Container {
  ones: readonly number[]
  others: readonly number[]
}

/** What two documents have by the numbers of their entries. */
export interface Numbered {
  /** The entry of the other document that has the number of one of the first. */
  partner(a: number): number | undefined
  /** Whether that is the same entry, letter by letter. */
  isKept(a: number): boolean
  /** How much nearer an entry is to one of the other document than to its partner: above 0 nearer, below 0 less near. */
  nearer(a: number, b: number | undefined): number
}

/**
 * The disputes that speak against numbers; none where more of what was changed speaks for them. Who numbers entries
 * anew puts all that follow one further, or back, and none past an entry that is as it was, or has some change their
 * numbers among themselves. Where values were changed a few hold what others held, by chance.
 */
export function disputesInRows(
  disputes: readonly Dispute[],
  containers: readonly Container[],
  numbered: Numbered,
): Dispute[] {
  const all = new Map(disputes.map((each) => [each.a, each]))
  const rounds = inRounds(all)
  const inRows: Dispute[] = []
  let against = 0
  for (const { ones, others } of containers) {
    if (!ones.some((a) => all.has(a))) continue
    const kept = new KeptRow({ ones, others }, numbered)
    /** By how much the entries are put further here; undefined where they are not, or nobody knows. */
    let shift: number | undefined
    for (const [rank, a] of ones.entries()) {
      const dispute = all.get(a)
      if (dispute !== undefined) {
        const there = kept.rankOf(dispute.b)
        const isInRow = kept.isBetweenTheSame(rank, there) || rounds.has(a)
        shift = isInRow ? there - rank : undefined
        if (isInRow) inRows.push(dispute)
        else against++
      } else if (numbered.isKept(a)) shift = undefined
      else if (shift !== undefined) against -= Math.sign(numbered.nearer(a, others[rank + shift]))
    }
  }
  return inRows.length > against ? inRows : []
}

/** The entries whose numbers went round among them: each has the number of the next, and the last that of the first. */
function inRounds(all: ReadonlyMap<number, Dispute>): ReadonlySet<number> {
  const met = new Set<number>()
  const found = new Set<number>()
  for (const first of all.keys()) {
    const way: number[] = []
    let at: number | undefined = first
    while (at !== undefined && all.has(at) && !met.has(at)) {
      met.add(at)
      way.push(at)
      at = all.get(at)?.handedFrom
    }
    const start = at === undefined ? -1 : way.indexOf(at)
    if (start >= 0) for (const each of way.slice(start)) found.add(each)
  }
  return found
}

/** The longest row of entries that are as they were by their numbers and stand in one order in both documents. */
class KeptRow {
  private readonly ranks: ReadonlyMap<number, number>
  private readonly inFirst: readonly number[]
  private readonly inOther: readonly number[]

  constructor({ ones, others }: Container, numbered: Numbered) {
    this.ranks = new Map(others.map((b, rank) => [b, rank]))
    const kept = [...ones.entries()].filter(([, a]) => numbered.isKept(a))
    const there = kept.map(([, a]) => this.rankOf(numbered.partner(a) ?? -1))
    const isInRow = longestIncreasing(there)
    this.inFirst = kept.map(([rank]) => rank).filter((_, i) => isInRow[i] === 1)
    this.inOther = there.filter((_, i) => isInRow[i] === 1)
  }

  /** The rank of an entry of the other document, or -1. */
  rankOf(b: number): number {
    return this.ranks.get(b) ?? -1
  }

  /** Whether two ranks, of the first document and of the other, are between the same entries of the row. */
  isBetweenTheSame(rank: number, other: number): boolean {
    return firstNotBefore(this.inFirst, rank) === firstNotBefore(this.inOther, other)
  }
}
