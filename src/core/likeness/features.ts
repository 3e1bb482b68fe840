import { Kind } from '../document/kind.ts'
import type { Value } from './value.ts'
import { stepTo } from './value.ts'

/** The step to an item of a list. */
const ANY_ITEM = '[]'

/** Every value in an entry with the path to it: what two entries may share. Sorted by path, then by value. */
export interface Features {
  paths: readonly number[]
  /** The value at the path of the same rank: a number for path and value together. */
  values: readonly number[]
}

/** The features of values, as numbers: the same feature has the same number in all documents. */
export class FeatureTable {
  private readonly numbers = new Map<string, number>()
  /** Of each path the numbers of the paths one step on. */
  private readonly steps = new Map<number, Map<string, number>>()
  private readonly known: (Features | undefined)[] = []

  /** The features of an entry, its own name aside. */
  of(value: Value): Features {
    return (this.known[value.id] ??= this.collected(value))
  }

  /** Features that were found otherwise: a path and a text each. */
  ofTexts(texts: Iterable<readonly [path: string, text: string]>): Features {
    const found: Found[] = []
    for (const [path, text] of texts) {
      const number = this.number(path)
      found.push({ path: number, value: this.number(`${number}=${text}`) })
    }
    return inOrder(found)
  }

  private collected(value: Value): Features {
    const fields = value.kind === Kind.Property ? fieldsOf(value.text) : []
    if (fields.length > 1) return this.ofTexts(fields)
    const found: Found[] = []
    this.collect(value, this.number(''), found)
    return inOrder(found)
  }

  /** The number of a path, in the notation of identities: `@id`, `about/name`. */
  pathNumber(path: string): number {
    return path.split('/').reduce((from, step) => this.stepFrom(from, step), this.number(''))
  }

  private number(feature: string): number {
    let number = this.numbers.get(feature)
    if (number === undefined) this.numbers.set(feature, (number = this.numbers.size))
    return number
  }

  private stepFrom(path: number, step: string): number {
    let steps = this.steps.get(path)
    if (steps === undefined) this.steps.set(path, (steps = new Map<string, number>()))
    let number = steps.get(step)
    if (number === undefined) steps.set(step, (number = this.number(`${path}/${step}`)))
    return number
  }

  /** Each text inside a value with the path to it: lists of plain values by index, others without. */
  private collect({ kind, text, parts }: Value, path: number, found: Found[]): void {
    if (text !== undefined) found.push({ path, value: this.number(`${path}=${text}`) })
    const byIndex = kind === Kind.Array && parts.every((part) => part.kind === Kind.Scalar)
    for (const [i, part] of parts.entries()) {
      if (kind === Kind.Member) this.collect(part, path, found)
      else
        this.collect(
          part,
          this.stepFrom(path, byIndex ? `[${i}]` : stepTo(part) || ANY_ITEM),
          found,
        )
    }
  }
}

/** The fields of a value that is written as `(Kind=lamp,Count=3)`: none in any other text. */
function fieldsOf(text = ''): [name: string, text: string][] {
  if (!text.startsWith('(') && !text.startsWith('{')) return []
  return [...text.matchAll(FIELD)].map(([, name = '', value = '']) => [name, value])
}

const FIELD = /([\w.-]+)\s*=\s*("(?:[^"\\]|\\.)*"|[^,(){}\s]+)/g

interface Found {
  path: number
  value: number
}

function inOrder(found: Found[]): Features {
  found.sort((a, b) => a.path - b.path || a.value - b.value)
  const once = found.filter((each, i) => each.value !== found[i - 1]?.value)
  return { paths: once.map(({ path }) => path), values: once.map((each) => each.value) }
}

/** How rare each feature is among siblings. */
export class Rarity {
  private readonly counts = new Map<number, number>()
  private total = 0

  /** @param siblings the features of all entries that stand beside one another in one document */
  constructor(siblings: Iterable<Features>) {
    for (const { paths, values } of siblings) {
      this.total++
      for (const value of values) this.count(value)
      for (const [i, path] of paths.entries()) if (path !== paths[i - 1]) this.count(path)
    }
  }

  private count(feature: number): void {
    this.counts.set(feature, (this.counts.get(feature) ?? 0) + 1)
  }

  /** How many siblings there are. */
  get size(): number {
    return this.total
  }

  private times(feature: number): number {
    return this.counts.get(feature) ?? 0
  }

  /** The share of the others that have a feature. @param own whether the one whose others are meant has it */
  shareOf(feature: number, own: boolean): number {
    return this.total < 2 ? 0 : (this.times(feature) - (own ? 1 : 0)) / (this.total - 1)
  }

  /** What a feature weighs that such a share of the others have: 1 where none has it, 0 from a half on. */
  weightOf(share: number): number {
    const others = this.total - 1
    if (share <= 0) return 1
    if (share > 0.5 || (share === 0.5 && others > 2)) return 0
    return Math.log(1 / share) / Math.log(others + 1)
  }
}

/** What one entry has and the other lacks says less than what they have otherwise. */
const ALONE = 0.3
/** To have a path at all weighs half of what a value at it does. */
const PATH = 0.5

/** What two entries have in common, and what not. */
export interface Likeness {
  /** From 0 (nothing rare in common) to 1. */
  score: number
  /** How many values they share that count. */
  counting: number
}

/** Two entries, each among its siblings. */
export interface Compared {
  features: Features
  rarity: Rarity
}

/**
 * How alike two entries are: what both have and few of their siblings do, against what they have otherwise.
 *
 * @param without paths that do not count, as the identity's
 */
export function likeness(a: Compared, b: Compared, without?: ReadonlySet<number>): Likeness {
  const weight = (feature: number, inA: boolean, inB: boolean): number => {
    const [shareA, shareB] = [a.rarity.shareOf(feature, inA), b.rarity.shareOf(feature, inB)]
    return shareA >= shareB ? a.rarity.weightOf(shareA) : b.rarity.weightOf(shareB)
  }
  let [agreed, apart, alone, counting] = [0, 0, 0, 0]
  const [fa, fb] = [a.features, b.features]
  let [i, j] = [0, 0]
  while (i < fa.paths.length || j < fb.paths.length) {
    const path = Math.min(fa.paths[i] ?? Infinity, fb.paths[j] ?? Infinity)
    const [fromA, fromB] = [i, j]
    let [onlyA, onlyB, both] = [0, 0, 0]
    while (fa.paths[i] === path || fb.paths[j] === path) {
      const x = fa.paths[i] === path ? (fa.values[i] ?? Infinity) : Infinity
      const y = fb.paths[j] === path ? (fb.values[j] ?? Infinity) : Infinity
      if (x === y) both += counted(weight(x, true, true))
      else if (x < y) onlyA += weight(x, true, false)
      else onlyB += weight(y, false, true)
      if (x <= y) i++
      if (y <= x) j++
    }
    if (without?.has(path) === true) continue
    const [hasA, hasB] = [i > fromA, j > fromB]
    const ofPath = PATH * weight(path, hasA, hasB)
    agreed += both
    if (hasA && hasB) {
      agreed += ofPath
      apart += (onlyA + onlyB) / 2
    } else alone += onlyA + onlyB + ofPath
  }
  const all = agreed + apart + ALONE * alone
  return { score: all === 0 ? 0 : agreed / all, counting }

  function counted(one: number): number {
    if (one > 0) counting++
    return one
  }
}
