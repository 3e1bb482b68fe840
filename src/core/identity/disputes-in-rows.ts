import { firstNotBefore } from '../document/ascending.ts'

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
    const kept = new KeptEntries({ ones, others }, numbered)
    /** By how much the entries are put further here; undefined where they are not, or nobody knows. */
    let shift: number | undefined
    for (const [rank, a] of ones.entries()) {
      const dispute = all.get(a)
      if (dispute !== undefined) {
        const there = kept.rankOf(dispute.b)
        if (kept.areAround(rank, there) || rounds.has(a)) {
          inRows.push(dispute)
          shift = there - rank
        } else against++
      } else if (kept.has(a)) shift = undefined
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
    const round: number[] = []
    let at: number | undefined = first
    // no two have a number from the same entry, so that no way comes back anywhere but where it began
    while (at !== undefined && all.has(at) && !met.has(at)) {
      met.add(at)
      round.push(at)
      at = all.get(at)?.handedFrom
    }
    if (at === first) for (const each of round) found.add(each)
  }
  return found
}

/** Entries that are as they were by their numbers, and what stands between them. */
class KeptEntries {
  private readonly ranks: ReadonlyMap<number, number>
  private readonly kept: ReadonlySet<number>
  /** Their ranks in the first document, ascending, and in the other. */
  private readonly inFirst: readonly number[]
  private readonly inOther: readonly number[]

  constructor({ ones, others }: Container, numbered: Numbered) {
    this.ranks = new Map(others.map((b, rank) => [b, rank]))
    const kept = [...ones.entries()].filter(([, a]) => numbered.isKept(a))
    this.kept = new Set(kept.map(([, a]) => a))
    this.inFirst = kept.map(([rank]) => rank)
    this.inOther = kept.map(([, a]) => this.rankOf(numbered.partner(a) ?? -1))
  }

  /** Whether an entry of the first document is one of them. */
  has(a: number): boolean {
    return this.kept.has(a)
  }

  /** The rank of an entry of the other document, or -1. */
  rankOf(b: number): number {
    return this.ranks.get(b) ?? -1
  }

  /** Whether a rank of the other document is between the two that stand around a rank of the first. */
  areAround(rank: number, other: number): boolean {
    const next = firstNotBefore(this.inFirst, rank)
    return (this.inOther[next - 1] ?? -1) < other && other < (this.inOther[next] ?? Infinity)
  }
}
