import { Kind } from '../document/kind.ts'
import { identitySegment, quoteName, withOccurrence } from '../keys/key.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityOf } from './expression.ts'
import type { Matching } from './matching.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/**
 * What names a node in a key by itself: `@name`, its name, `name[identity]`, or `[identity]` where it has no
 * name; empty where nothing does.
 *
 * @param identity what tells it from its siblings, where something does
 */
export function nodeSegment(
  doc: Doc,
  node: number,
  identity: IdentityExpression | undefined,
): string {
  const name = doc.name(node)
  const found = identity === undefined ? undefined : identityOf(doc, node, identity)
  const inBrackets = found === undefined ? '' : identitySegment(found)
  if (name === '') return inBrackets
  return (doc.kind(node) === Kind.Attribute ? '@' : '') + quoteName(name) + inBrackets
}

/** The last segment of an entry's key, as one document has it. */
export function segmentOf(matching: Matching, cls: number, side: Side): string {
  const doc = matching.docs[side]
  const unit = matching.unit(side, cls)
  const node = matching.node(side, cls)
  const rank = (): number => matching.placesOf(side).rank[unit] ?? 1
  switch (doc.kind(node)) {
    case Kind.Text:
      return textSegment(matching, unit, side)
    case Kind.Comment:
      return '#comment'
    case Kind.Member:
    case Kind.Section:
      return withOccurrence(nodeSegment(doc, node, undefined), matching.occurrence.get(cls) ?? 1)
    case Kind.Property:
      return withOccurrence(nodeSegment(doc, node, undefined), rank())
    case Kind.Attribute:
    case Kind.Instruction:
      return nodeSegment(doc, node, undefined)
    default:
      return node === doc.root() ? '' : entrySegment(matching, cls, side, rank)
  }
}

/**
 * Elements and items of arrays by their identity or value; else elements by their rank among those of their
 * name, and items by their 0-based index in mine, else new, else old.
 */
function entrySegment(matching: Matching, cls: number, side: Side, rank: () => number): string {
  const doc = matching.docs[side]
  const node = matching.node(side, cls)
  const occurrence = matching.occurrence.get(cls) ?? 1
  const means = matching.means(side, matching.unit(side, cls))
  const name = nodeSegment(doc, node, undefined)
  if (means?.by === 'identity' && identityOf(doc, node, means.identity) !== undefined)
    return withOccurrence(nodeSegment(doc, node, means.identity), occurrence)
  if (doc.kind(node) !== Kind.Element) return identitySegment([String(indexOf(matching, cls))])
  return means?.by === 'value'
    ? withOccurrence(name + identitySegment([doc.elementText(node)]), occurrence)
    : withOccurrence(name, rank())
}

function indexOf(matching: Matching, cls: number): number {
  const side = ([MINE, NEW, OLD] as const).find((each) => matching.unit(each, cls) >= 0) ?? OLD
  return matching.placesOf(side).index[matching.unit(side, cls)] ?? -1
}

/** The text of an element without child elements is the element's own value; else it is `#text`. */
function textSegment(matching: Matching, unit: number, side: Side): string {
  const hasElements = matching.lists.some((list, s) =>
    list?.nodes.some((node) => matching.docs[s as Side].kind(node) === Kind.Element),
  )
  return hasElements ? withOccurrence('#text', matching.placesOf(side).rank[unit] ?? 1) : ''
}
