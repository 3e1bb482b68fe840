import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { parseIdentity, untoldAmong } from './expression.ts'
import { Identities } from './identities.ts'
import { namedOfEach, itemsOfEach, placeOf, splitPlace } from './place.ts'

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
    const name = doc.foldedName(child)
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
  const groups = siblingsAt(doc, place)
  return { entries: groups.flat().length, untold: untoldAmong(doc, groups, parseIdentity(text)) }
}

/** The entries of each container at a place: elements of one name, or items of arrays. */
function siblingsAt(doc: Doc, place: string): number[][] {
  const [parent, name] = splitPlace(place)
  const items = itemsOfEach(doc, place, [Kind.Object, Kind.Array])
  return [...namedOfEach(doc, parent, name), ...items].filter(({ length }) => length > 0)
}

/** The identity that would be inferred for a place; undefined where there is none. */
export function inferredAt(docs: readonly Doc[], place: string): string | undefined {
  const identities = new Identities(docs, new Map())
  const [parent, name] = splitPlace(place)
  const found = identities.ofNamed(parent, name) ?? identities.ofItems(place, Kind.Object)
  return found?.identity.text
}
