import type { Side, Triple } from '../document/sides.ts'
import { OLD, SIDES, triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import { surely } from '../document/surely.ts'
import type { Doc } from '../formats/doc.ts'
import type { DormantEntries, DormantEntry } from './dormant.ts'
import { heldBy } from './already-carried.ts'
import type { Changed } from './links.ts'
import type { ListMatch } from './match-list.ts'
import { isLooseClass } from './match-list.ts'
import type { Classes } from './order.ts'
import { shiftedNumbers } from './numbered-keys.ts'
import type { Shifted } from './shifted-names.ts'
import { shiftedNames } from './shifted-names.ts'
import type { Stretch } from './stretches.ts'
import type { TellApartBy } from './tell-apart.ts'
import { wrappedInLike } from './wrapped-in-like.ts'

/** The ranks of a list's units among those that are entries; -1 for comments and texts. */
export type ItemRanks = Triple<readonly number[]>

/** A container whose units are to be matched. */
export interface Container {
  docs: Triple<Doc>
  /** Undefined where a document lacks the container. */
  lists: Triple<UnitList | undefined>
  /** The units of entries one by one, where some of the lists' units stand for runs of them. */
  apart: (() => Triple<UnitList | undefined>) | undefined
  /** The entries that stand in comments; undefined where there are none. */
  dormant: DormantEntries | undefined
}

/**
 * Which unit of one document is which unit of the others: each class is one entry, with its unit in
 * old, new and mine, or -1 where it is not there.
 */
export class Matching implements Classes {
  readonly docs: Triple<Doc>
  readonly lists: Triple<UnitList | undefined>
  private readonly dormant: DormantEntries | undefined
  readonly classOf: Triple<number[]>
  /** Classes of entries that one side gave another name. */
  readonly renamed = new Set<number>()
  /** What classes that a side dropped may have become. */
  readonly perhaps = new Map<number, readonly number[]>()
  /** Classes of entries that may be others than their names say, and the class of what each may be now. */
  readonly shifted = new Map<number, number | undefined>()
  /** The same of entries that both sides changed, by chance in the same way. */
  readonly shiftedAlike = new Map<number, number | undefined>()
  /** Stretches of classes that are one question each. */
  readonly stretches: readonly Stretch[]
  /** The side that has the other's changes already: of entries without a name the result has what that side has. */
  readonly held: Changed | undefined
  /** Whether the whole list is one question. */
  readonly isQuestion: boolean
  /** Whether every entry is told by what it alone has. */
  readonly isAllNamed: boolean

  private readonly slots: Triple<number[]> = [[], [], []]
  private readonly loose = new Set<number>()

  /** @param ranks the rank of each unit among the items that were matched */
  constructor(
    { docs, lists, dormant }: Container,
    private readonly match: ListMatch,
    private readonly ranks: ItemRanks,
  ) {
    this.docs = docs
    this.lists = lists
    this.dormant = dormant
    this.classOf = triple((side) => new Array<number>(lists[side]?.length ?? 0).fill(-1))
    const units = triple((side) =>
      [...ranks[side].keys()].filter((unit) => ranks[side][unit] !== -1),
    )
    const numbers = new Map<number, number>()
    const { links } = match
    for (let cls = 0; cls < links.length; cls++) {
      const members = triple((side) => links.member(side, cls))
      if (members.every((at) => at < 0)) continue
      numbers.set(cls, this.length)
      if (links.reason(cls) === 'renamed') this.renamed.add(this.length)
      if (!match.isAllNamed && isLooseClass(match, cls)) this.loose.add(this.length)
      this.addClass(triple((side) => units[side][members[side]] ?? -1))
    }
    const number = (cls: number): number => numbers.get(cls) ?? -1
    for (const [from, to] of match.perhaps)
      if (number(from) >= 0)
        this.perhaps.set(
          number(from),
          to.map(number).filter((cls) => cls >= 0),
        )
    if (!match.isOneSided) {
      const numbers = shiftedNumbers(match.told, links)
      const put = (into: Map<number, number | undefined>, found: Shifted): void => {
        for (const [from, to] of found)
          into.set(number(from), to === undefined ? undefined : number(to))
      }
      put(this.shifted, shiftedNames(match.told, links))
      put(this.shifted, numbers.asked)
      put(this.shifted, wrappedInLike(match.told, links))
      put(this.shiftedAlike, numbers.alike)
    }
    this.stretches = match.stretches.map((stretch) => new Set([...stretch].map(number)))
    this.held = heldBy(match.holding)
    this.isQuestion = match.isQuestion
    this.isAllNamed = match.isAllNamed
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
    return unit < 0 ? -1 : surely(this.lists[side]).node(unit)
  }

  /** The entry of a class that stands in comments in a document; undefined where it is live or not there. */
  dormantEntry(side: Side, cls: number): DormantEntry | undefined {
    if (this.dormant === undefined) return undefined
    const unit = this.unit(side, cls)
    const list = this.lists[side]
    if (unit < 0 || list?.isDormant(unit) !== true) return undefined
    return this.dormant.entries[side].get(list.node(unit))
  }

  /** Whether a class is an entry that stands in comments in some document. */
  hasDormant(cls: number): boolean {
    return (
      this.dormant !== undefined && SIDES.some((side) => this.dormantEntry(side, cls) !== undefined)
    )
  }

  /** The entry of a class in a document, live or dormant, and the document in which it is read. */
  entry(side: Side, cls: number): { doc: Doc; node: number } {
    return this.dormantEntry(side, cls) ?? { doc: this.docs[side], node: this.node(side, cls) }
  }

  isComment(side: Side, unit: number): boolean {
    return this.lists[side]?.isComment(unit) === true
  }

  /** Whether a unit is a comment or a text: it is looked for where it stands. */
  isWords(side: Side, unit: number): boolean {
    return this.ranks[side][unit] === -1
  }

  /** The rank of a unit among the entries, from 0. */
  index(side: Side, unit: number): number {
    return surely(this.ranks[side][unit])
  }

  /** Whether the units of a class were joined to another's, so that it has none. */
  isVoid(cls: number): boolean {
    return SIDES.every((side) => this.unit(side, cls) < 0)
  }

  /** By what a unit is told from its siblings; undefined for comments and texts. */
  means(side: Side, unit: number): TellApartBy | undefined {
    const { told } = this.match
    const group = told.groups[side][this.index(side, unit)]
    return group === undefined ? undefined : told.means(group)
  }

  /**
   * The number that entries have and that a side gave anew, and whether that is sure; undefined where there is
   * none, or one side at most changed the list.
   */
  get numberedAnew(): { counter: string; isSure: boolean } | undefined {
    const { told, isOneSided, isQuestion } = this.match
    const anew = isOneSided ? undefined : told.numberedAnew
    // a list that only one side changed may not have been looked at
    return anew?.isSure === false && !isQuestion ? undefined : anew
  }

  /** Whether no strong identity tells the entries of a class. */
  isLoose(cls: number): boolean {
    return this.loose.has(cls)
  }

  /** Whether an entry is what it is in old but for a number that was given anew. */
  isRenumbered(side: Side, cls: number): boolean {
    const at = (each: Side): number => this.index(each, this.unit(each, cls))
    return this.match.told.isRenumbered(side, at(side), at(OLD))
  }

  /** What names an entry, and may name others too; undefined where nothing does. */
  name(side: Side, unit: number): string | undefined {
    return this.match.told.name(side, this.index(side, unit))
  }

  /** Adds a comment or a text, which nothing of its own tells. */
  addWords(side: Side, unit: number): void {
    this.loose.add(this.addClass(triple((each) => (each === side ? unit : -1))))
  }

  private addClass(units: Triple<number>): number {
    const cls = this.length
    for (const side of SIDES) {
      this.slots[side].push(units[side])
      if (units[side] >= 0) this.classOf[side][units[side]] = cls
    }
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
