import { detached } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { parseIdentity } from './expression.ts'
import type { Inference, Inferred } from './infer.ts'
import { inferIdentity } from './infer.ts'
import { Known } from './known.ts'
import { namedOfEach, itemsOfEach, placeOf, repeatedNames } from './place.ts'

/** What of an array has entries of its own. */
type ItemKind = Kind.Object | Kind.Array

/** What begins the place of lists in a list: entries may stand beside them, and are told apart by themselves. */
const OF_LISTS = '\0'

/**
 * The identities of one file, for each place: what the config says, else what is inferred from all
 * documents together, once, when it is first asked for.
 */
export class Identities {
  private readonly configured: ReadonlyMap<string, string>
  /** A name without capitals, where the format of the documents takes them for one. */
  private readonly fold: (name: string) => string
  private readonly chosen = new Map<string, Inference>()
  private readonly repeated = new Map<string, ReadonlySet<string>>()

  /** The values of the documents, as far as they were asked for. */
  readonly known = new Known()

  /**
   * @param configured place (a key without identities) to identity, such as `find` to `@id`
   * @param before the same, as it was chosen for earlier documents of this file: where that still tells entries apart
   * nothing else is chosen, so that a key means what it meant
   */
  constructor(
    private readonly docs: readonly Doc[],
    configured: ReadonlyMap<string, string>,
    private readonly before: ReadonlyMap<string, string> = new Map(),
  ) {
    const [first] = docs
    this.fold = (name) => (first === undefined ? name : foldName(first.format, name))
    this.configured = new Map(
      [...configured].map(([place, text]) => [this.fold(place), this.fold(text)]),
    )
    for (const [place, text] of this.configured)
      this.chosen.set(place, { inferred: { identity: parseIdentity(text), isStrong: true } })
  }

  /** The same choices, for documents that differ from these in what entries hold. */
  alsoOf(docs: readonly Doc[]): Identities {
    const others = new Identities(docs, this.configured, this.before)
    for (const [place, { inferred, counter }] of this.chosen) {
      const own = inferred === undefined ? undefined : { ...inferred, perDocument: undefined }
      others.chosen.set(place, { inferred: own, counter })
    }
    return others
  }

  /** Whether the config names an identity for the elements, or the sections, `name` at `place`. */
  isConfigured(place: string, name: string): boolean {
    return this.configured.has(placeOf(place, this.fold(name)))
  }

  /** Of the elements, or the sections, `name` in containers at `place`. */
  ofNamed(place: string, name: string): Inferred | undefined {
    return this.namedOf(place, name).inferred
  }

  /** The same, or why there is none. */
  namedOf(place: string, name: string): Inference {
    const folded = this.fold(name)
    return this.of(placeOf(place, folded), () => {
      if (!this.repeatedAt(place).has(folded)) return []
      return this.docs.map((doc) => namedOfEach(doc, place, folded))
    })
  }

  /** Of the objects, or of the arrays, in arrays at `place`. */
  ofItems(place: string, kind: ItemKind): Inferred | undefined {
    return this.itemsOf(place, kind).inferred
  }

  /** The same, or why there is none. */
  itemsOf(place: string, kind: ItemKind): Inference {
    const groups = (): number[][][] => this.docs.map((doc) => itemsOfEach(doc, place, [kind]))
    const isOfLists = kind === Kind.Array && !this.configured.has(place)
    return this.of(place, groups, isOfLists ? OF_LISTS + place : place)
  }

  /**
   * The entries of a document at a place by their identity, in their order, as far as it was inferred; of
   * several containers' with one identity the last.
   *
   * @param place the entries' own: with their name, where they have one
   */
  entriesAt(place: string, doc: Doc): ReadonlyMap<string, number> | undefined {
    const chosen = this.chosen.get(place) ?? this.chosen.get(OF_LISTS + place)
    return chosen?.inferred?.perDocument?.find((found) => found.doc === doc)?.nodes
  }

  /** What was chosen so far: place to identity. */
  choices(): Map<string, string> {
    const choices = new Map<string, string>()
    for (const [of, { inferred }] of this.chosen) {
      const place = of.startsWith(OF_LISTS) ? of.slice(OF_LISTS.length) : of
      // where lists stand beside entries, it is the entries that a reader asks for
      const isBeside = of !== place && this.chosen.get(place)?.inferred !== undefined
      if (inferred !== undefined && !isBeside)
        choices.set(detached(place), detached(inferred.identity.text))
    }
    return choices
  }

  /** The names that need an identity at a place: looked for once for all of them. */
  private repeatedAt(place: string): ReadonlySet<string> {
    let repeated = this.repeated.get(place)
    if (repeated === undefined) {
      repeated = repeatedNames(this.docs, place)
      this.repeated.set(place, repeated)
    }
    return repeated
  }

  private of(place: string, groups: () => number[][][], known = place): Inference {
    let chosen = this.chosen.get(known)
    if (chosen === undefined) {
      const found = groups()
      chosen =
        found.length === 0
          ? {}
          : inferIdentity(this.docs, found, this.known, this.before.get(place))
      this.chosen.set(known, chosen)
    }
    return chosen
  }
}
