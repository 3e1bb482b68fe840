import { HOLDING, Kind } from '../document/kind.ts'
import { gather } from '../document/gather.ts'
import type { Doc } from '../formats/doc.ts'
import { identitySegment, joinKey, withOccurrence } from '../keys/key.ts'
import type { Identities } from './identities.ts'
import { nodeSegment } from './node-segment.ts'
import { placeInside } from './place.ts'

/** A key of a document, and the node that it names. */
export interface DocumentKey {
  key: string
  node: number
}

/** Every key of one document, as a carry of it names them, in the order in which they stand. */
export function documentKeys(doc: Doc, identities: Identities): DocumentKey[] {
  const walk = new Walk(doc, identities)
  walk.inside(0, '', '')
  return walk.keys
}

class Walk {
  readonly keys: DocumentKey[] = []

  constructor(
    private readonly doc: Doc,
    private readonly identities: Identities,
  ) {}

  inside(node: number, key: string, place: string): void {
    const { doc } = this
    const kind = doc.kind(node)
    if (kind === Kind.Member) {
      this.inside(doc.memberValue(node), key, place)
      return
    }
    if (!HOLDING.has(kind)) return
    const all = doc.children(node).filter((child) => doc.kind(child) !== Kind.Comment)
    const isLeaf = kind === Kind.Element && doc.isLeafElement(node)
    const isContent = (child: number): boolean => doc.kind(child) !== Kind.Attribute
    this.list(
      all.filter((child) => !isContent(child)),
      key,
      place,
    )
    if (!isLeaf) this.list(all.filter(isContent), key, place)
  }

  /** The children of a container; of those that have one segment in common the first keeps it, the others are numbered. */
  private list(children: readonly number[], parent: string, place: string): void {
    const { doc } = this
    const last = new Map<string, number>()
    const taken = new Set<string>()
    const siblings = new Map<string, number[]>()
    for (const child of children) gather(siblings, doc.name(child), child)
    for (const [index, child] of children.entries()) {
      const own = this.segmentOf(child, index, siblings.get(doc.name(child)) ?? [], place)
      let occurrence = (last.get(own) ?? 0) + 1
      while (taken.has(withOccurrence(own, occurrence))) occurrence++
      last.set(own, occurrence)
      const segment = withOccurrence(own, occurrence)
      taken.add(segment)
      const key = joinKey(parent, segment)
      if (key !== parent) this.keys.push({ key, node: child })
      this.inside(child, key, placeInside(doc, child, place))
    }
  }

  private segmentOf(
    node: number,
    index: number,
    siblings: readonly number[],
    place: string,
  ): string {
    const { doc } = this
    const kind = doc.kind(node)
    if (node === doc.root()) return ''
    switch (kind) {
      case Kind.Text:
        return '#text'
      case Kind.Element:
        return this.elementSegment(node, siblings, place)
      case Kind.Object:
      case Kind.Array: {
        const named = nodeSegment(doc, node, this.identities.ofItems(place, kind)?.identity)
        return named === '' ? identitySegment([String(index)]) : named
      }
      case Kind.Scalar:
        return identitySegment([String(index)])
      case Kind.Section:
        return nodeSegment(doc, node, this.identities.ofNamed(place, doc.name(node))?.identity)
      default:
        return nodeSegment(doc, node, undefined)
    }
  }

  /** By its identity, else by its text where it holds nothing else and others have its name. */
  private elementSegment(node: number, siblings: readonly number[], place: string): string {
    const { doc, identities } = this
    const name = doc.name(node)
    const arePlain = siblings.every((each) => doc.isChildless(each))
    const isTold = identities.isConfigured(place, name) || !arePlain
    const chosen = isTold ? identities.ofNamed(place, name) : undefined
    if (chosen !== undefined) return nodeSegment(doc, node, chosen.identity)
    const segment = nodeSegment(doc, node, undefined)
    const isByText = siblings.length > 1 && doc.isChildless(node)
    return isByText ? segment + identitySegment([doc.elementText(node)]) : segment
  }
}
