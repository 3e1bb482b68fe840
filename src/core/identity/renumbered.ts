import { timesOf } from '../document/gather.ts'
import type { Features } from '../likeness/features.ts'
import { onlyPairs } from '../likeness/only-ones.ts'
import type { Shared } from '../likeness/shared-values.ts'
import { sharedValues } from '../likeness/shared-values.ts'
import type { Value } from '../likeness/value.ts'
import { weightOf } from '../likeness/weight.ts'
import { sampled } from '../likeness/sampled.ts'
import type { Candidate, Partners } from './partners.ts'
import type { Container, Dispute, Numbered } from './disputes-in-rows.ts'
import { disputesInRows } from './disputes-in-rows.ts'
import { isCustomary } from './candidates.ts'
import { isNumbered, onlyCounts } from './numbers.ts'
import type { Comparison } from './comparison.ts'
import { BY_CHANCE, CLEARLY, SAMPLE } from './measures.ts'

/** Two likenesses that are no further apart are one: what is rare is counted in some of the siblings only. */
const TIED = 0.01
/** By so much less alike partners are none. */
const MUCH = 0.5
/** So much beside its number tells an entry that has another number now. */
const LEAST_BESIDE = 2
/** So many numbers at least have something else behind them where entries were put one further. */
const LEAST_SHIFTED = 2

export type Renumbered = 'surely' | 'perhaps' | undefined

/**
 * Whether a side numbered entries anew, as it does behind one that it put between them: entries have a number
 * that another had, and are what they were by another candidate, or by all that they hold beside the number.
 * Where they hold little beside it, or the same as others, it is so only perhaps: the values may have been changed.
 */
export function renumbered(
  candidate: Candidate,
  all: readonly Candidate[],
  entries: Comparison,
): Renumbered {
  if (!isNumbered(candidate)) return undefined
  const rivals = all.filter((each) => !isNumbered(each))
  const own = entries.pathOf(candidate)
  const changedInEach = entries
    .others()
    .map((d) => ({ d, changed: changedIn(candidate, d, entries) }))
    .filter(({ changed }) => changed.length > 0)
  const verdicts = changedInEach.flatMap(({ d, changed }) => {
    const disputes = new Disputes(candidate, d, entries)
    const beside = new Set([own])
    return [
      disputes.verdict(equalBeside(candidate, d, changed, entries), beside, 'equal'),
      disputes.verdict(alikeBeside(candidate, d, changed, entries), beside, 'alike'),
      ...rivals.map((each) => {
        const paths = new Set([own, entries.pathOf(each)])
        const by = isCustomary(each.identity.text) ? 'name' : 'label'
        const verdict = disputes.verdict(entries.partnersByEntry(each, d), paths, by)
        return verdict === 'perhaps' && by === 'label' ? undefined : verdict
      }),
    ]
  })
  if (verdicts.includes('surely')) return 'surely'
  if (verdicts.includes('perhaps')) return 'perhaps'
  const isShifted = changedInEach.some(({ d, changed }) =>
    changed.some((each) => areShifted(candidate, d, each, entries)),
  )
  return isShifted ? 'perhaps' : undefined
}

/** What of two containers of one rank is not as it was by its number. */
interface ChangedIn {
  ones: readonly number[]
  others: readonly number[]
}

/** What is not as it was by its number; none where the documents have another number of containers. */
function changedIn(candidate: Candidate, d: number, entries: Comparison): ChangedIn[] {
  const byNumber = entries.partnersByEntry(candidate, d)
  const { groups } = entries.siblings
  const [first, other] = [groups[0] ?? [], groups[d] ?? []]
  if (first.length !== other.length) return []
  const kept = new Set<number>()
  const ones = first.map((nodes) =>
    nodes.filter((node) => {
      const partner = byNumber.get(node)
      const isKept = partner !== undefined && entries.areSame(d, [node, partner])
      if (isKept) kept.add(partner)
      return !isKept
    }),
  )
  const others = other.map((nodes) => nodes.filter((node) => !kept.has(node)))
  return ones
    .map((each, k) => ({ ones: each, others: others[k] ?? [] }))
    .filter((each) => each.ones.length > 0 && each.others.length > 0)
}

/** A customary name, some other text of their own, all beside the number, or more of it than others have. */
type InCommon = 'name' | 'label' | 'equal' | 'alike'

/** Where the entries of a document have other partners by their numbers than otherwise. */
class Disputes {
  private readonly byNumber: ReadonlyMap<number, number>
  private readonly handedFrom: ReadonlyMap<number, number>
  private readonly counts: boolean

  constructor(
    candidate: Candidate,
    private readonly d: number,
    private readonly entries: Comparison,
  ) {
    this.byNumber = entries.partnersByEntry(candidate, d)
    this.counts = onlyCounts(
      candidate,
      [0, d].flatMap((each) => candidate.held[each] ?? []),
    )
    this.handedFrom = new Map(entries.partnersOf(candidate, d).map(([a, b]) => [b, a]))
  }

  /**
   * Surely, where the partners otherwise are at least as alike in most cases, and some number was handed on to
   * another entry; perhaps, where one was handed on and the partners otherwise are not much less alike.
   *
   * @param paths what does not count, as it is what is compared
   * @param by what the partners have in common: where they are not just alike they need not be more alike than others
   */
  verdict(
    partners: ReadonlyMap<number, number>,
    paths: ReadonlySet<number>,
    by: InCommon,
  ): Renumbered {
    const isSame = by !== 'alike'
    const alike = (pair: Partners): number => this.entries.alike(this.d, pair, paths)
    const all = this.of(partners)
    const told = by === 'name' ? all : disputesInRows(all, this.containers, this.numbered(alike))
    const looked = sampled(told, SAMPLE).map(({ a, b, byNumber, handedFrom }) => {
      const here = byNumber === undefined ? alike([handedFrom ?? -1, b]) : alike([a, byNumber])
      const there = alike([a, b])
      const isHandedOn = handedFrom !== undefined
      // a copy beside the edited original has another number, too; but it does not count on
      const isLikelier = there >= here + CLEARLY && (this.counts || here <= BY_CHANCE)
      const isPlain = isLikelier && (this.counts || there > 1 - CLEARLY)
      return {
        isWorse: there > here + (isSame ? -TIED : CLEARLY),
        isSure: isHandedOn || isPlain,
        isInDoubt: isLikelier || (isSame && there > here - MUCH && (isHandedOn || this.counts)),
      }
    })
    const worse = looked.filter(({ isWorse }) => isWorse)
    if (worse.length * 2 > looked.length && worse.some(({ isSure }) => isSure)) return 'surely'
    return looked.some(({ isInDoubt }) => isInDoubt) ? 'perhaps' : undefined
  }

  /** What these documents have by the numbers. */
  private numbered(alike: (pair: Partners) => number): Numbered {
    const { byNumber, entries, d } = this
    const partner = (a: number): number | undefined => byNumber.get(a)
    const alikeTo = (a: number, b: number | undefined): number =>
      b === undefined ? 0 : alike([a, b])
    return {
      partner,
      isKept: (a) => {
        const b = partner(a)
        return b !== undefined && entries.areSame(d, [a, b])
      },
      nearer: (a, b) => {
        const by = alikeTo(a, b) - alikeTo(a, partner(a))
        return Math.abs(by) > TIED ? by : 0
      },
    }
  }

  private get containers(): Container[] {
    const { groups } = this.entries.siblings
    return (groups[0] ?? []).map((ones, k) => ({ ones, others: groups[this.d]?.[k] ?? [] }))
  }

  private of(partners: ReadonlyMap<number, number>): Dispute[] {
    return [...partners]
      .map(([a, b]) => ({
        a,
        b,
        byNumber: this.byNumber.get(a),
        handedFrom: this.handedFrom.get(b),
      }))
      .filter(({ b, byNumber, handedFrom }) => {
        return byNumber !== b && (byNumber !== undefined || handedFrom !== undefined)
      })
  }
}

/**
 * Whether what entries hold beside their numbers was put one further, or one back: read in order it has changed
 * in fewer places than there are numbers with something else behind them.
 */
function areShifted(
  candidate: Candidate,
  d: number,
  { ones, others }: ChangedIn,
  entries: Comparison,
): boolean {
  const byNumber = entries.partnersByEntry(candidate, d)
  const inFirst = ones.map((node) => heldBeside(candidate, 0, node, entries).id)
  const inOther = others.map((node) => heldBeside(candidate, d, node, entries).id)
  const heldBy = new Map(others.map((node, j) => [node, inOther[j]]))
  const changed = ones.filter((node, i) => {
    const partner = byNumber.get(node)
    return partner !== undefined && heldBy.get(partner) !== inFirst[i]
  }).length
  if (changed < LEAST_SHIFTED) return false
  const kept = entries.aligner.align(inFirst, inOther).length
  return inFirst.length + inOther.length - 2 * kept < changed
}

/** Changed entries that alone in their container hold the same beside their number, and enough of it. */
function equalBeside(
  candidate: Candidate,
  d: number,
  changed: readonly ChangedIn[],
  entries: Comparison,
): ReadonlyMap<number, number> {
  const held = (doc: number, nodes: readonly number[]): Value[] =>
    nodes.map((node) => heldBeside(candidate, doc, node, entries))
  const found = changed.flatMap(({ ones, others }) => {
    const [inFirst, inOther] = [held(0, ones), held(d, others)]
    const ids = [inFirst, inOther].map((values) => values.map(({ id }) => id))
    return onlyPairs(ids[0] ?? [], ids[1] ?? []).flatMap(([i, j]) => {
      const value = inFirst[i]
      const isEnough = value !== undefined && weightOf(value) >= LEAST_BESIDE
      return isEnough ? [{ value, a: ones[i] ?? -1, b: others[j] ?? -1 }] : []
    })
  })
  // where what was not changed holds the same, too, it tells nothing
  const all = found.length === 0 ? [] : (entries.siblings.groups[0] ?? []).flat()
  const times = timesOf(held(0, all))
  return new Map(found.filter(({ value }) => times.get(value) === 1).map(({ a, b }) => [a, b]))
}

/** Changed entries that share more values which few others have than either does with any other entry. */
function alikeBeside(
  candidate: Candidate,
  d: number,
  changed: readonly ChangedIn[],
  entries: Comparison,
): ReadonlyMap<number, number> {
  // of what holds little, one value would be all that is alike
  const featuresIn = (doc: number, all: readonly number[]): Features[] =>
    all.map((node) => {
      const held = heldBeside(candidate, doc, node, entries)
      return weightOf(held) < LEAST_BESIDE ? NOTHING : entries.featuresOf(held)
    })
  const found = changed.flatMap(({ ones, others }) => {
    const shared = sharedValues(featuresIn(0, ones), featuresIn(d, others), 1)
    const [ofOnes, ofOthers] = [bestOf(shared, 'one'), bestOf(shared, 'other')]
    return shared
      .filter((each) => ofOnes.get(each.one) === each && ofOthers.get(each.other) === each)
      .map(({ one, other }) => [ones[one] ?? -1, others[other] ?? -1] as const)
  })
  // what entries that were not changed hold, too, tells nothing
  const all = found.length === 0 ? [] : (entries.siblings.groups[0] ?? []).flat()
  const times = timesOf(featuresIn(0, all).flatMap(({ values }) => values))
  const [inFirst, inOther] = [0, d].map((doc, of) =>
    featuresIn(
      doc,
      found.map((pair) => pair[of] ?? -1),
    ).map(({ values }) => values),
  )
  return new Map(
    found.filter((_, i) => {
      const there = new Set(inOther?.[i])
      return inFirst?.[i]?.some((value) => there.has(value) && times.get(value) === 1)
    }),
  )
}

/** Of each entry the one with which it shares most; undefined where there are several. */
function bestOf(
  shared: readonly Shared[],
  of: 'one' | 'other',
): ReadonlyMap<number, Shared | undefined> {
  const most = new Map<number, number>()
  const best = new Map<number, Shared | undefined>()
  for (const each of shared) {
    const known = most.get(each[of]) ?? 0
    if (each.times < known) continue
    most.set(each[of], each.times)
    best.set(each[of], each.times > known ? each : undefined)
  }
  return best
}

/** What an entry of a document holds beside its number. */
function heldBeside({ identity }: Candidate, d: number, node: number, entries: Comparison): Value {
  return entries.values.without(entries.valueOf(d, node), identity.text)
}

const NOTHING: Features = { paths: [], values: [] }
