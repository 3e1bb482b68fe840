import { detached } from '../document/characters.ts'
import type { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { parseIdentity } from './expression.ts'
import type { EntryIndex } from './finder.ts'
import type { Inferred } from './infer.ts'
import { indexBy, inferFromSome, inferIdentity } from './infer.ts'
import type { LeftOut } from './siblings.ts'
import { containersAt, elementsNamed, placeOf, repeatedNames } from './place.ts'

/** An identity with an index of entries that each have one of their own. */
export interface Indexed {
  identity: IdentityExpression
  index: EntryIndex
}

/** A document whose nodes are all built when they are asked for. */
export interface WholeDoc {
  readonly whole: Doc
}

/** The entries of one container in several documents, those left out that the first has, too. */
export interface SomeEntries {
  docs: readonly Doc[]
  /** For each document the nodes of those that are not left out; of the first all. */
  entries: readonly (readonly number[])[]
  leftOut: readonly (LeftOut | undefined)[]
}

/**
 * The identities of one file, for each place: what the config says, else what is inferred from all
 * documents together, once, when it is first asked for.
 */
export class Identities {
  private readonly chosen = new Map<string, Inferred | undefined>()
  /** What was inferred before it was asked for: it is chosen when it is. */
  private readonly prepared = new Map<string, Inferred | undefined>()
  private readonly repeated = new Map<string, ReadonlySet<string>>()
  /** Documents that have all that any has, the first as a whole; set where something is left out. */
  private parts: readonly Doc[] | undefined

  /** @param configured place (a key without identities) to identity, such as `find` to `@id` */
  constructor(
    private readonly documents: readonly WholeDoc[],
    private readonly configured: ReadonlyMap<string, string>,
  ) {
    for (const [place, text] of configured)
      this.chosen.set(place, { identity: parseIdentity(text), index: undefined })
  }

  private get docs(): readonly Doc[] {
    return this.documents.map(({ whole }) => whole)
  }

  /** Whether the config names an identity for the elements `name` at `place`. */
  isConfigured(place: string, name: string): boolean {
    return this.configured.has(placeOf(place, name))
  }

  /** Of the elements `name` in containers at `place`. */
  ofElements(place: string, name: string): IdentityExpression | undefined {
    return this.of(placeOf(place, name), () => {
      if (!this.repeatedAt(place).has(name)) return []
      return this.docs.map((doc) =>
        containersAt(doc, place).map((container) => elementsNamed(doc, [container], name)),
      )
    })
  }

  /**
   * The identity of the entries of the only container at their place, and an index of the first
   * document's; undefined where they have no such identity, or where all are needed to tell.
   *
   * @param place the entries' own: with their name, where they have one
   */
  ofSome(place: string, { docs, entries, leftOut }: SomeEntries): Indexed | undefined {
    if (!this.chosen.has(place)) {
      const told = inferFromSome(docs, entries, leftOut)
      if (told !== undefined) this.prepared.set(place, told.inferred)
    }
    const { identity, index } = this.chosen.get(place) ?? this.prepared.get(place) ?? {}
    const [doc] = docs
    if (identity === undefined || doc === undefined) return undefined
    const made = index ?? indexBy(identity, doc, entries[0] ?? [])
    return made === undefined ? undefined : { identity, index: made }
  }

  /** Lets an index stand for that of a place: of a document of which something is left out. */
  setIndex(place: string, index: EntryIndex): void {
    for (const known of [this.chosen, this.prepared]) {
      const inferred = known.get(place)
      if (inferred !== undefined) known.set(place, { ...inferred, index })
    }
  }

  /** Documents in which together all is that is in the whole ones: the first is whole. */
  lookIn(parts: readonly Doc[]): void {
    this.parts = parts
  }

  /** Of the objects, or of the arrays, in arrays at `place`. */
  ofItems(place: string, kind: Kind.Object | Kind.Array): IdentityExpression | undefined {
    return this.of(place, () =>
      this.docs.map((doc) =>
        containersAt(doc, place).map((array) =>
          doc.children(array).filter((item) => doc.kind(item) === kind),
        ),
      ),
    )
  }

  /** An index of the elements `name` in the container at `place`, as far as one was made. */
  indexOfElements(place: string, name: string): EntryIndex | undefined {
    return this.chosen.get(placeOf(place, name))?.index
  }

  /** The same of items in the array at `place`. */
  indexOfItems(place: string): EntryIndex | undefined {
    return this.chosen.get(place)?.index
  }

  /** What was chosen so far: place to identity. */
  choices(): Map<string, string> {
    const choices = new Map<string, string>()
    for (const [place, chosen] of this.chosen)
      if (chosen !== undefined) choices.set(detached(place), detached(chosen.identity.text))
    return choices
  }

  /** The names that need an identity at a place: looked for once for all of them. */
  private repeatedAt(place: string): ReadonlySet<string> {
    const known = this.repeated.get(place)
    if (known !== undefined) return known
    const repeated = repeatedNames(this.parts ?? this.docs, place)
    this.repeated.set(place, repeated)
    return repeated
  }

  private of(place: string, groups: () => number[][][]): IdentityExpression | undefined {
    if (!this.chosen.has(place)) this.chosen.set(place, this.choose(place, groups))
    return this.chosen.get(place)?.identity
  }

  private choose(place: string, groups: () => number[][][]): Inferred | undefined {
    if (this.prepared.has(place)) return this.prepared.get(place)
    const found = groups()
    return found.length === 0 ? undefined : inferIdentity(this.docs, found)
  }
}
