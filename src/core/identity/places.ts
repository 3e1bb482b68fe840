import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { identityText, parseIdentity } from './expression.ts'
import { Identities } from './identities.ts'
import { elementsNamed, nodesAt, placeOf } from './place.ts'

/** All places of a document: keys without identities, as the config names them. */
export function placesIn(doc: Doc): Set<string> {
  const places = new Set<string>()
  const root = doc.root()
  if (root >= 0) collect(doc, root, '', places)
  return places
}

function collect(doc: Doc, node: number, place: string, places: Set<string>): void {
  places.add(place)
  for (const child of doc.children(node)) {
    const name = foldName(doc.format, doc.name(child))
    switch (doc.kind(child)) {
      case Kind.Attribute:
        places.add(placeOf(place, `@${name}`))
        break
      case Kind.Element:
      case Kind.Section:
        collect(doc, child, placeOf(place, name), places)
        break
      case Kind.Property:
        places.add(placeOf(place, name))
        break
      case Kind.Member:
        collect(doc, doc.memberValue(child), placeOf(place, name), places)
        break
      case Kind.Object:
      case Kind.Array:
        collect(doc, child, place, places)
        break
      default:
        break
    }
  }
}

/** How many entries of a place there are, and how many of them an identity does not tell. */
export interface Untold {
  entries: number
  /** Entries that lack the identity, or share it with another of their container. */
  untold: number
}

/** What an identity does not tell of the entries at a place. */
export function untoldBy(doc: Doc, place: string, text: string): Untold {
  const identity = parseIdentity(text)
  let [entries, untold] = [0, 0]
  for (const siblings of siblingsAt(doc, place)) {
    const values = siblings.map((node) => identityText(doc, node, identity))
    const times = new Map<string | undefined, number>()
    for (const value of values) times.set(value, (times.get(value) ?? 0) + 1)
    entries += values.length
    untold += values.filter((value) => value === undefined || (times.get(value) ?? 0) > 1).length
  }
  return { entries, untold }
}

/** The entries of each container at a place: elements of one name, or items of arrays. */
function siblingsAt(doc: Doc, place: string): number[][] {
  const at = place.lastIndexOf('/')
  const [parent, name] = [place.slice(0, Math.max(0, at)), place.slice(at + 1)]
  const elements = nodesAt(doc, parent).map((container) => elementsNamed(doc, [container], name))
  const items = nodesAt(doc, place)
    .filter((node) => doc.kind(node) === Kind.Array)
    .map((array) =>
      doc
        .children(array)
        .filter((item) => doc.kind(item) === Kind.Object || doc.kind(item) === Kind.Array),
    )
  return [...elements, ...items].filter(({ length }) => length > 0)
}

/** The identity that would be inferred for a place; undefined where there is none. */
export function inferredAt(docs: readonly Doc[], place: string): string | undefined {
  const identities = new Identities(docs, new Map())
  const at = place.lastIndexOf('/')
  const [parent, name] = [place.slice(0, Math.max(0, at)), place.slice(at + 1)]
  const found =
    identities.ofElements(parent, name) ?? identities.ofItems(place, Kind.Object) ?? undefined
  return found?.identity.text
}
