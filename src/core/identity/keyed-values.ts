import { isRepeatable, Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { identitySegment, joinKey } from '../keys/key.ts'
import type { IdentityExpression } from './expression.ts'
import { Identities } from './identities.ts'
import { Counted } from '../likeness/counted.ts'
import { placeOf } from './place.ts'
import { nodeSegment } from './node-segment.ts'

/**
 * All values of documents with their keys, and how often each occurs: what the documents have in common.
 * Entries are told apart by one identity in all of them; those that have none go by their name alone.
 */
export function keyedValues(docs: readonly Doc[]): Counted[] {
  const identities = new Identities(docs, new Map())
  return docs.map((doc) => new ValueCollector(doc, identities).collect())
}

class ValueCollector {
  private readonly found = new Counted()

  constructor(
    private readonly doc: Doc,
    private readonly identities: Identities,
  ) {}

  collect(): Counted {
    const root = this.doc.root()
    if (root >= 0) this.inside(root, '', '')
    return this.found
  }

  private add(key: string, value: string): void {
    this.found.add(`${key}=${value}`)
  }

  /** What a container holds, under its key; a leaf's value. */
  private inside(node: number, key: string, place: string): void {
    const { doc } = this
    const kind = doc.kind(node)
    if (kind === Kind.Scalar) this.add(key, doc.value(node))
    if (kind === Kind.Element && doc.isLeafElement(node)) this.add(key, doc.elementText(node))
    for (const child of doc.children(node)) this.child(child, key, place)
  }

  private child(node: number, key: string, place: string): void {
    const { doc } = this
    const { format } = doc
    const kind = doc.kind(node)
    const name = doc.foldedName(node)
    const segment = foldName(format, nodeSegment(doc, node, this.identityOf(node, place, name)))
    switch (kind) {
      case Kind.Attribute:
      case Kind.Property:
        this.add(joinKey(key, segment), doc.value(node))
        break
      case Kind.Element:
      case Kind.Section:
        this.inside(node, joinKey(key, segment), placeOf(place, name))
        break
      case Kind.Member:
        this.inside(doc.memberValue(node), joinKey(key, segment), placeOf(place, name))
        break
      case Kind.Object:
      case Kind.Array:
      case Kind.Scalar:
        this.inside(node, joinKey(key, segment === '' ? ANY_ITEM : segment), place)
        break
      default:
        break
    }
  }

  private identityOf(node: number, place: string, name: string): IdentityExpression | undefined {
    const kind = this.doc.kind(node)
    if (isRepeatable(kind)) return this.identities.ofNamed(place, name)?.identity
    return kind === Kind.Object || kind === Kind.Array
      ? this.identities.ofItems(place, kind)?.identity
      : undefined
  }
}

/** In place of an identity: any item of an array. */
const ANY_ITEM = identitySegment(['*'])
