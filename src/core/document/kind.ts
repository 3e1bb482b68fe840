/**
 * What a node of a document is. All formats share these kinds, so that one merge serves them all.
 *
 * A `Document` is the root; an `Element` and its `Attribute`s and `Text` are XML's; `Object`,
 * `Array`, `Member` and `Scalar` are JSON's; a `Section` and its `Property`s are INI's. An
 * `Instruction` is what XML has beside content: the declaration, DOCTYPE, processing instructions.
 */
export enum Kind {
  Document,
  Element,
  Attribute,
  Text,
  Comment,
  Instruction,
  Object,
  Array,
  Member,
  Scalar,
  Section,
  Property,
}

/** Whether several of one name may stand in a container, each of them an entry that something inside tells. */
export function isRepeatable(kind: Kind): boolean {
  return kind === Kind.Element || kind === Kind.Section
}

/** What holds entries or members. */
export const HOLDING: ReadonlySet<Kind> = new Set([
  Kind.Document,
  Kind.Element,
  Kind.Section,
  Kind.Object,
  Kind.Array,
])
