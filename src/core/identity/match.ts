import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import { canonical } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import type { Means, Scope } from './keying.ts'
import type { UnitKeys } from './keying.ts'
import { Keying } from './keying.ts'
import type { Features } from './likeness.ts'
import { align, featuresOf, similarity } from './likeness.ts'
import type { Sequence } from './sequence.ts'
import { pairSequences } from './sequence.ts'
import type { Side, Triple } from './sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from './sides.ts'

/** Entries without identity are one from this share of values on. */
const LEAST_LIKENESS = 0.5
/** Entries that share an identity are one from this share of values on. */
const LEAST_SHARED = 0.3
/** Comments and texts at one place are one from this share of words on. */
const LEAST_WORDS = 0.3
/** An entry whose identity was changed is found again from this share on, and only ... */
const LEAST_RENAMED = 0.6
/** ... where no other candidate comes nearer than this. */
const RENAME_MARGIN = 0.15
/** More lost and gained entries than this are not compared for renames. */
const MOST_RENAMED = 200

/**
 * Which unit of one document is which unit of the others: each class is one entry, with its unit in
 * old, new and mine, or -1 where it is not there.
 */
export class Matching {
  readonly slots: Triple<number[]> = [[], [], []]
  readonly classOf: Triple<number[]>
  /** Classes of entries whose identity differs between the documents. */
  readonly renamed = new Set<number>()
  /** Which occurrence of its identity a class is, where it is not the first. */
  readonly occurrence = new Map<number, number>()

  /** The classes that share their key with others, to all classes of that key. */
  readonly twins = new Map<number, readonly number[]>()

  constructor(
    readonly docs: Triple<Doc>,
    readonly lists: Triple<UnitList | undefined>,
    readonly keying: Keying,
  ) {
    this.classOf = triple((side) => new Array<number>(lists[side]?.length ?? 0).fill(-1))
  }

  get length(): number {
    return this.slots[OLD].length
  }

  /** The unit of a class in a document, or -1. */
  unit(side: Side, cls: number): number {
    return this.slots[side][cls] ?? -1
  }

  /** The node of a class in a document, or -1. */
  node(side: Side, cls: number): number {
    const unit = this.unit(side, cls)
    return unit < 0 ? -1 : (this.lists[side]?.node[unit] ?? -1)
  }

  /** Whether a class is empty because its units were joined to another. */
  isVoid(cls: number): boolean {
    return SIDES.every((side) => this.unit(side, cls) < 0)
  }

  means(side: Side, unit: number): Means | undefined {
    return this.keying.means.get(this.keying.groups[side][unit] ?? '')
  }

  add(side: Side, unit: number): number {
    const cls = this.length
    for (const each of SIDES) this.slots[each].push(each === side ? unit : -1)
    this.classOf[side][unit] = cls
    return cls
  }

  put(cls: number, side: Side, unit: number): void {
    this.slots[side][cls] = unit
    this.classOf[side][unit] = cls
  }

  /** Makes two classes one, where no document has a unit in both; gives whether it did. */
  join(into: number, from: number): boolean {
    if (
      into === from ||
      SIDES.some((side) => this.unit(side, into) >= 0 && this.unit(side, from) >= 0)
    )
      return false
    for (const side of SIDES) {
      const unit = this.unit(side, from)
      if (unit < 0) continue
      this.put(into, side, unit)
      this.slots[side][from] = -1
    }
    return true
  }
}

/** Matches the units of one container in the three documents; where a document lacks it, its list is undefined. */
export function matchUnits(
  docs: Triple<Doc>,
  lists: Triple<UnitList | undefined>,
  scope: Scope,
): Matching {
  const matching = new Matching(docs, lists, new Keying(docs, lists, scope))
  const byKey = new ByKey(matching)
  byKey.addVanilla()
  const alike = new AlikeGroups(matching, byKey.keys)
  alike.match()
  const pairing = new Pairing(matching)
  if (!isComplete(matching, [OLD, NEW])) pairing.pair(OLD, NEW)
  byKey.addMine()
  if (!isComplete(matching, SIDES)) {
    pairing.pair(OLD, MINE)
    pairing.pair(NEW, MINE)
  }
  byKey.findTwins()
  return matching
}

/**
 * Matches units of one key in their order: the first with the first, the second with the second. Old
 * and new are matched to the end before mine is looked at, and mine is compared with new before old:
 * so what a carry has brought from new is found again as that when the carry is repeated.
 */
class ByKey {
  readonly keys: Triple<UnitKeys>
  /** The classes of each key, in the order of the documents. */
  private readonly classes = new Map<string, number[]>()

  constructor(private readonly matching: Matching) {
    this.keys = triple((side) => matching.keying.keys(side))
  }

  /** Notes the classes that nothing but their order tells apart. */
  findTwins(): void {
    const alike = new Map<string, number[]>()
    const { matching } = this
    for (let cls = 0; cls < matching.length; cls++) {
      const side = SIDES.findLast((each) => matching.unit(each, cls) >= 0)
      if (side === undefined) continue
      const key = this.keys[side].alone[matching.unit(side, cls)] ?? ''
      const known = alike.get(key)
      if (known === undefined) alike.set(key, [cls])
      else known.push(cls)
    }
    for (const twins of alike.values()) {
      if (twins.length < 2) continue
      for (const [i, twin] of twins.entries()) {
        matching.twins.set(twin, twins)
        if (i > 0) matching.occurrence.set(twin, i + 1)
      }
    }
  }

  addVanilla(): void {
    for (const side of [OLD, NEW] as const) {
      const used = new Map<string, number>()
      for (const [unit, key] of this.keys[side].inContext.entries()) {
        if (key === undefined) continue
        const occurrence = used.get(key) ?? 0
        used.set(key, occurrence + 1)
        const cls = this.classes.get(key)?.[occurrence]
        if (cls === undefined) this.addClass(side, unit, key)
        else this.matching.put(cls, side, unit)
      }
    }
  }

  addMine(): void {
    const all = [...this.keys[MINE].inContext.keys()]
    const keyed = all.filter((unit) => this.keys[MINE].inContext[unit] !== undefined)
    const left = this.take(NEW, keyed)
    for (const unit of this.take(OLD, left)) this.matching.add(MINE, unit)
  }

  /** Gives mine's units to the classes whose unit in `side` has their key; what is left over is given back. */
  private take(side: Side, units: readonly number[]): number[] {
    const { matching } = this
    const free = new Map<string, number[]>()
    for (const [unit, key] of this.keys[side].inContext.entries()) {
      const cls = matching.classOf[side][unit] ?? -1
      if (key === undefined || matching.unit(MINE, cls) >= 0) continue
      const waiting = free.get(key)
      if (waiting === undefined) free.set(key, [cls])
      else waiting.push(cls)
    }
    for (const waiting of free.values()) waiting.reverse()
    return units.filter((unit) => {
      const cls = free.get(this.keys[MINE].inContext[unit] ?? '')?.pop()
      if (cls !== undefined) matching.put(cls, MINE, unit)
      return cls === undefined
    })
  }

  private addClass(side: Side, unit: number, key: string): void {
    const cls = this.matching.add(side, unit)
    const known = this.classes.get(key)
    if (known === undefined) this.classes.set(key, [cls])
    else known.push(cls)
  }
}

/**
 * Matches what no key tells apart: entries without identity, and entries that share one. Old and new
 * are aligned first; then mine with what the two have together, where an entry may be equal to either.
 */
class AlikeGroups {
  private readonly features: FeatureCache

  constructor(
    private readonly matching: Matching,
    private readonly keys: Triple<UnitKeys>,
  ) {
    this.features = new FeatureCache(matching)
  }

  match(): void {
    const groups = new Map<string, Triple<number[]>>()
    for (const side of SIDES) {
      for (const [unit, name] of this.keys[side].alikeGroup.entries()) {
        if (name === undefined) continue
        const units = groups.get(name) ?? [[], [], []]
        units[side].push(unit)
        groups.set(name, units)
      }
    }
    for (const [name, units] of groups)
      this.matchGroup(units, name.startsWith('?') ? LEAST_LIKENESS : LEAST_SHARED)
  }

  private matchGroup(units: Triple<number[]>, least: number): void {
    const { matching } = this
    const sequence = (side: Side): Sequence => ({
      length: units[side].length,
      keys: (at) => [this.keyOf(side, units[side][at] ?? -1)],
    })
    const partners = new Map<number, number>()
    const alike = (i: number, j: number): number =>
      this.likeness([[OLD, units[OLD][i] ?? -1]], units[NEW][j] ?? -1, NEW)
    for (const [i, j] of pairSequences(sequence(OLD), sequence(NEW), alike, least))
      partners.set(j, i)
    const classes = this.vanillaClasses(units, partners)
    const members = (at: number): [Side, number][] =>
      [NEW, OLD].flatMap((side): [Side, number][] => {
        const unit = matching.unit(side as Side, classes[at] ?? -1) // one of the two
        return unit < 0 ? [] : [[side as Side, unit]]
      })
    const merged: Sequence = {
      length: classes.length,
      keys: (at) => members(at).map(([side, unit]) => this.keyOf(side, unit)),
    }
    const toMine = (i: number, j: number): number =>
      this.likeness(members(i), units[MINE][j] ?? -1, MINE)
    const found = new Set<number>()
    for (const [i, j] of pairSequences(merged, sequence(MINE), toMine, least)) {
      matching.put(classes[i] ?? -1, MINE, units[MINE][j] ?? -1)
      found.add(j)
    }
    for (const [j, unit] of units[MINE].entries()) if (!found.has(j)) matching.add(MINE, unit)
  }

  /** Classes of old and new in one order: new's, with what only old has behind what it followed there. */
  private vanillaClasses(units: Triple<number[]>, partners: ReadonlyMap<number, number>): number[] {
    const { matching } = this
    for (const unit of units[OLD]) matching.add(OLD, unit)
    const order: number[] = []
    for (const [j, unit] of units[NEW].entries()) {
      const partner = partners.get(j)
      const cls =
        partner === undefined ? -1 : (matching.classOf[OLD][units[OLD][partner] ?? -1] ?? -1)
      if (cls >= 0) matching.put(cls, NEW, unit)
      order.push(cls >= 0 ? cls : matching.add(NEW, unit))
    }
    let previous = -1
    for (const unit of units[OLD]) {
      const cls = matching.classOf[OLD][unit] ?? -1
      if (matching.unit(NEW, cls) < 0) order.splice(order.indexOf(previous) + 1, 0, cls)
      previous = cls
    }
    return order
  }

  private keyOf(side: Side, unit: number): string {
    return this.keys[side].content(unit)
  }

  /** The best likeness of a unit to any of the members; to be equal to the first of them is best of all. */
  private likeness(members: readonly [Side, number][], unit: number, side: Side): number {
    let best = 0
    for (const [rank, [other, otherUnit]] of members.entries()) {
      const score =
        this.keyOf(other, otherUnit) === this.keyOf(side, unit)
          ? 1.002 - rank / 1000
          : Math.min(
              0.99,
              similarity(this.features.of(other, otherUnit), this.features.of(side, unit)),
            )
      best = Math.max(best, score)
    }
    return best
  }
}

/** The features of units, each worked out once. */
class FeatureCache {
  private readonly known = new Map<number, Features>()

  constructor(private readonly matching: Matching) {}

  of(side: Side, unit: number): Features {
    const id = unit * 3 + side
    let features = this.known.get(id)
    if (features === undefined) {
      features = featuresOf(this.matching.docs[side], this.matching.lists[side]?.node[unit] ?? 0)
      this.known.set(id, features)
    }
    return features
  }
}

function isComplete(matching: Matching, sides: readonly Side[]): boolean {
  const counts = sides.map((side) => matching.lists[side]?.length ?? 0)
  return counts.every((count) => count === 0 || count === matching.length)
}

/**
 * Finds among what has no partner yet the comments that were rewritten and the entries that were
 * renamed. Comments and texts that both sides added are one only where they are equal: neither is a new version of the other.
 */
class Pairing {
  private readonly features: FeatureCache

  constructor(private readonly matching: Matching) {
    this.features = new FeatureCache(matching)
  }

  pair(a: Side, b: Side): void {
    const lost = this.unmatched(a, b)
    const gained = this.unmatched(b, a)
    for (const [group, lostUnits] of lost) {
      const gainedUnits = gained.get(group)
      if (gainedUnits === undefined) continue
      const means = this.matching.keying.means.get(group)
      if (this.isWords(a, lostUnits[0] ?? 0)) {
        this.pairEqual(a, b, lostUnits, gainedUnits)
        if (a === OLD) this.pairInGaps(a, b, lostUnits, gainedUnits)
      } else if (means?.by === 'identity' && a === OLD)
        this.pairRenamed(a, b, lostUnits, gainedUnits)
    }
  }

  /** Units of `a` without partner in `b`, by group. */
  private unmatched(a: Side, b: Side): Map<string, number[]> {
    const found = new Map<string, number[]>()
    const { matching } = this
    for (const [unit, cls] of matching.classOf[a].entries()) {
      if (matching.unit(b, cls) >= 0) continue
      const group = matching.keying.groups[a][unit] ?? ''
      const units = found.get(group)
      if (units === undefined) found.set(group, [unit])
      else units.push(unit)
    }
    return found
  }

  /** Pairs what is equal, wherever it stands, in its order. */
  private pairEqual(a: Side, b: Side, lost: readonly number[], gained: readonly number[]): void {
    const { matching } = this
    const waiting = new Map<string, number[]>()
    const words = (side: Side, unit: number): string =>
      canonical(matching.docs[side], matching.lists[side]?.node[unit] ?? 0)
    for (const unit of gained) {
      const text = words(b, unit)
      const same = waiting.get(text)
      if (same === undefined) waiting.set(text, [unit])
      else same.push(unit)
    }
    for (const unit of lost) {
      const partner = waiting.get(words(a, unit))?.shift()
      if (partner !== undefined) {
        matching.join(matching.classOf[a][unit] ?? -1, matching.classOf[b][partner] ?? -1)
      }
    }
  }

  /** Pairs units that stand between the same matched neighbours. */
  private pairInGaps(
    a: Side,
    b: Side,
    allLost: readonly number[],
    allGained: readonly number[],
  ): void {
    const { matching } = this
    const lost = allLost.filter((unit) => matching.unit(b, matching.classOf[a][unit] ?? -1) < 0)
    const gained = allGained.filter((unit) => matching.unit(a, matching.classOf[b][unit] ?? -1) < 0)
    const inGap = this.byGap(b, a, gained)
    for (const [gap, lostUnits] of this.byGap(a, b, lost)) {
      const gainedUnits = inGap.get(gap)
      if (gainedUnits !== undefined) this.pairSequences(a, b, lostUnits, gainedUnits)
    }
  }

  /** Units of `a` by the class of the nearest unit before them that `b` has too. */
  private byGap(a: Side, b: Side, units: readonly number[]): Map<number, number[]> {
    const { matching } = this
    const wanted = new Set(units)
    const gaps = new Map<number, number[]>()
    let anchor = -1
    for (const [unit, cls] of matching.classOf[a].entries()) {
      if (matching.unit(b, cls) >= 0) anchor = cls
      else if (wanted.has(unit)) {
        const inGap = gaps.get(anchor)
        if (inGap === undefined) gaps.set(anchor, [unit])
        else inGap.push(unit)
      }
    }
    return gaps
  }

  private pairSequences(
    a: Side,
    b: Side,
    lost: readonly number[],
    gained: readonly number[],
  ): void {
    const { matching } = this
    const pairs =
      lost.length === gained.length
        ? lost.map((_, i): [number, number] => [i, i])
        : align(
            [lost.length, gained.length],
            (i, j) => this.alike(a, lost[i] ?? 0, b, gained[j] ?? 0),
            LEAST_WORDS,
          )
    for (const [i, j] of pairs) {
      matching.join(
        matching.classOf[a][lost[i] ?? 0] ?? -1,
        matching.classOf[b][gained[j] ?? 0] ?? -1,
      )
    }
  }

  private isWords(side: Side, unit: number): boolean {
    const kind = this.matching.docs[side].kind(this.matching.lists[side]?.node[unit] ?? 0)
    return kind === Kind.Comment || kind === Kind.Text
  }

  /** The best likeness between the members of two units' classes in any two documents. */
  private alike(a: Side, lost: number, b: Side, gained: number): number {
    const { matching } = this
    const from = matching.classOf[a][lost] ?? -1
    const to = matching.classOf[b][gained] ?? -1
    let best = 0
    for (const one of SIDES) {
      for (const other of SIDES) {
        if (matching.unit(one, from) < 0 || matching.unit(other, to) < 0) continue
        best = Math.max(
          best,
          similarity(
            this.features.of(one, matching.unit(one, from)),
            this.features.of(other, matching.unit(other, to)),
          ),
        )
      }
    }
    return best
  }

  /** An identity that one side changed: the entry that is far more alike than any other. */
  private pairRenamed(a: Side, b: Side, lost: readonly number[], gained: readonly number[]): void {
    if (lost.length > MOST_RENAMED || gained.length > MOST_RENAMED) return
    const { matching } = this
    const scores = lost.map((from) => gained.map((to) => this.alike(a, from, b, to)))
    for (const [i, from] of lost.entries()) {
      const row = scores[i] ?? []
      const j = row.indexOf(Math.max(...row))
      const best = row[j] ?? 0
      const column = scores.map((each) => each[j] ?? 0)
      const rivals = [...row.filter((_, at) => at !== j), ...column.filter((_, at) => at !== i)]
      if (best < LEAST_RENAMED || Math.max(0, ...rivals) > best - RENAME_MARGIN) continue
      const into = matching.classOf[a][from] ?? -1
      if (matching.join(into, matching.classOf[b][gained[j] ?? 0] ?? -1)) matching.renamed.add(into)
    }
  }
}
