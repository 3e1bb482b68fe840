import type { Doc } from '../formats/doc.ts'
import { Kind } from '../document/kind.ts'
import { identitySegment } from '../keys/key.ts'
import { nodeSegment } from '../identity/node-segment.ts'
import type { Matching } from './matching.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/**
 * The last segment of an entry's key, as one document has it; of entries that nothing of their own tells apart
 * several may have one.
 */
export function segmentOf(matching: Matching, cls: number, side: Side): string {
  const { doc, node } = matching.entry(side, cls)
  switch (doc.kind(node)) {
    case Kind.Text:
      return textSegment(matching)
    case Kind.Comment:
      return '#comment'
    case Kind.Object:
    case Kind.Array:
    case Kind.Scalar:
      return isRoot(matching, side, node, doc) ? '' : itemSegment(matching, cls, side)
    case Kind.Element:
      return isRoot(matching, side, node, doc) ? '' : elementSegment(matching, cls, side)
    default:
      return ownSegment(matching, cls, side)
  }
}

/** Whether a live node is the root; an entry in a comment is the root of what was read there. */
function isRoot({ docs }: Matching, side: Side, node: number, doc: Doc): boolean {
  return doc === docs[side] && node === doc.root()
}

/** By its name, and by its identity where one tells it; empty where it has neither. */
function ownSegment(matching: Matching, cls: number, side: Side): string {
  const { doc, node } = matching.entry(side, cls)
  const means = matching.means(side, matching.unit(side, cls))
  return nodeSegment(doc, node, means?.by === 'identity' ? means.identity : undefined)
}

/** By its identity, else by its text where it holds nothing else. */
function elementSegment(matching: Matching, cls: number, side: Side): string {
  const { doc, node } = matching.entry(side, cls)
  const name = ownSegment(matching, cls, side)
  const means = matching.means(side, matching.unit(side, cls))
  const isByValue = means?.by === 'sequence' && doc.isChildless(node)
  return isByValue ? name + identitySegment([doc.elementText(node)]) : name
}

/** By its identity, else by its 0-based index in mine, else new, else old. */
function itemSegment(matching: Matching, cls: number, side: Side): string {
  const named = ownSegment(matching, cls, side)
  if (named !== '') return named
  const latest = ([MINE, NEW, OLD] as const).find((each) => matching.unit(each, cls) >= 0) ?? OLD
  return identitySegment([String(matching.index(latest, matching.unit(latest, cls)))])
}

/** The text of an element without child elements is the element's own value; else it is `#text`. */
function textSegment(matching: Matching): string {
  const hasElements = matching.lists.some((list, s) =>
    list?.nodes.some((node) => matching.docs[s as Side].kind(node) === Kind.Element),
  )
  return hasElements ? '#text' : ''
}
