import type { Side, Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import { areNames, isCustomary, isId } from '../identity/candidates.ts'
import type { Known } from '../identity/known.ts'
import type { Compared, Features, Likeness } from '../likeness/features.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import { sampled } from '../likeness/sampled.ts'
import { wordsIn } from '../likeness/value.ts'
import type { Item } from './item.ts'
import type { TellApart } from './tell-apart.ts'

/** With fewer siblings nothing tells what is rare among them. */
const FEW = 3
/** So much alike must two be there of which a word differs. */
const VERY_MUCH = 0.8
/** So many values must two share that count, where one has another id than the other, or none. */
const LEAST_WITHOUT_ID = 2
/** So many siblings tell how rare a value is; of more, every so manieth is looked at. */
const MOST_SIBLINGS = 64

/** What two entries have otherwise, as identities name that, or one has and the other lacks. */
interface Differing {
  step: string
  /** Of each entry that has any. */
  texts: readonly string[]
}

/** Where two entries have other words, or one a customary name that the other lacks. */
function differingWords(a: Item | undefined, b: Item | undefined): Differing[] {
  if (a === undefined || b === undefined) return []
  const [ones, others] = [wordsIn(a.value), wordsIn(b.value)]
  return [...new Set([...ones.keys(), ...others.keys()])].flatMap((step): Differing[] => {
    if (ones.get(step) === others.get(step)) return []
    const texts = [ones.get(step), others.get(step)].filter((text) => text !== undefined)
    return isCustomary(step) || (texts.length > 1 && areNames(texts)) ? [{ step, texts }] : []
  })
}

/** Whether it is an id; one that is a number may only count the entries. */
function isOtherId({ step, texts }: Differing): boolean {
  return isId(step) && areNames(texts)
}

/** How alike the items of a list are, each measured against its siblings. */
export class Alike {
  private knownSiblings: Triple<readonly Item[]> | undefined
  private readonly comparedOnes = triple((): (Compared | undefined)[] => [])
  private readonly rarities = triple(() => new Map<string, Rarity>())

  /** @param siblings all that stand in the list, those among them that are not to be matched */
  constructor(
    private readonly told: TellApart,
    private readonly known: Known,
    private readonly siblings: () => Triple<readonly Item[]> = () => told.items,
  ) {}

  /**
   * From 0 (nothing rare in common) to 1. Among few siblings nothing tells what is rare: there two whose
   * customary name differs are two, and two of which another word differs, if they are not very much alike.
   * Among any number two of different ids, or of which one has none, are two where they share little else.
   */
  score(a: Side, i: number, b: Side, j: number): number {
    const { score, counting } = this.likeness(a, i, b, j)
    const areFew = Math.min(this.siblingsOf(a, i), this.siblingsOf(b, j)) < FEW
    if (score === 0 || (!areFew && counting >= LEAST_WITHOUT_ID)) return score
    const counter = this.told.counter(a, i)
    const differing = differingWords(this.told.items[a][i], this.told.items[b][j]).filter(
      ({ step }) => step !== counter,
    )
    if (counting < LEAST_WITHOUT_ID && differing.some(isOtherId)) return 0
    if (!areFew) return score
    if (differing.some(({ step }) => isCustomary(step))) return 0
    return differing.length > 0 && score < VERY_MUCH ? 0 : score
  }

  /** @param without paths that do not count, by their numbers */
  likeness(a: Side, i: number, b: Side, j: number, without?: ReadonlySet<number>): Likeness {
    return likeness(this.compared(a, i), this.compared(b, j), without)
  }

  /** The numbers of paths in the notation of identities. */
  numbersOf(paths: readonly string[]): ReadonlySet<number> {
    return new Set(paths.map((path) => this.known.features.pathNumber(path)))
  }

  featuresOf(side: Side, at: number): Features {
    const item = this.told.items[side][at]
    if (item === undefined) return { paths: [], values: [] }
    return this.known.features.of(this.told.content(side, at, item))
  }

  /** How many siblings of its group an item has in its document, itself among them. */
  siblingsOf(side: Side, at: number): number {
    return this.compared(side, at).rarity.size
  }

  private compared(side: Side, at: number): Compared {
    return (this.comparedOnes[side][at] ??= {
      features: this.featuresOf(side, at),
      rarity: this.rarityOf(side, at),
    })
  }

  private get allSiblings(): Triple<readonly Item[]> {
    return (this.knownSiblings ??= this.siblings())
  }

  private rarityOf(side: Side, at: number): Rarity {
    const own = this.told.items[side][at]
    const group = own === undefined ? '' : this.told.pool(own)
    let rarity = this.rarities[side].get(group)
    if (rarity === undefined) {
      const all = this.allSiblings[side].filter((item) => this.told.pool(item) === group)
      const { features, values } = this.known
      const counter = this.told.counter(side, at)
      const contents = sampled(all, MOST_SIBLINGS).map(({ value }) =>
        counter === undefined ? value : values.without(value, counter),
      )
      rarity = new Rarity(contents.map((each) => features.of(each)))
      this.rarities[side].set(group, rarity)
    }
    return rarity
  }
}
