import { Kind } from '../document/kind.ts'
import { identitySegment, quoteName, withOccurrence } from '../keys/key.ts'
import { identityOf } from './expression.ts'
import type { Matching } from './matching.ts'
import type { Side } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/** The last segment of an entry's key, as one document has it. */
export function segmentOf(matching: Matching, cls: number, side: Side): string {
  const doc = matching.docs[side]
  const unit = matching.unit(side, cls)
  const node = matching.node(side, cls)
  const occurrence = matching.occurrence.get(cls) ?? 1
  const name = quoteName(doc.name(node))
  switch (doc.kind(node)) {
    case Kind.Attribute:
      return `@${name}`
    case Kind.Instruction:
      return name
    case Kind.Text:
      return textSegment(matching, unit, side)
    case Kind.Comment:
      return '#comment'
    case Kind.Element:
      return elementSegment(matching, cls, side, name)
    case Kind.Member:
    case Kind.Section:
      return withOccurrence(name, occurrence)
    case Kind.Property:
      return withOccurrence(name, matching.placesOf(side).rank[unit] ?? 1)
    default:
      return itemSegment(matching, cls, side)
  }
}

function elementSegment(matching: Matching, cls: number, side: Side, name: string): string {
  const doc = matching.docs[side]
  const unit = matching.unit(side, cls)
  const node = matching.node(side, cls)
  const occurrence = matching.occurrence.get(cls) ?? 1
  const means = matching.means(side, unit)
  if (node === doc.root()) return ''
  if (means?.by === 'value') {
    return withOccurrence(name + identitySegment([doc.elementText(node)]), occurrence)
  }
  const identity = means?.by === 'identity' ? identityOf(doc, node, means.identity) : undefined
  if (identity !== undefined) return withOccurrence(name + identitySegment(identity), occurrence)
  return withOccurrence(name, matching.placesOf(side).rank[unit] ?? 1)
}

/** Items of arrays by their identity, else by their 0-based index in mine, else new, else old. */
function itemSegment(matching: Matching, cls: number, side: Side): string {
  const doc = matching.docs[side]
  const node = matching.node(side, cls)
  if (node === doc.root()) return ''
  const means = matching.means(side, matching.unit(side, cls))
  const identity = means?.by === 'identity' ? identityOf(doc, node, means.identity) : undefined
  if (identity !== undefined) {
    return withOccurrence(identitySegment(identity), matching.occurrence.get(cls) ?? 1)
  }
  const shown = [MINE, NEW, OLD].find((each) => matching.unit(each as Side, cls) >= 0) as Side // a class has a unit
  return identitySegment([String(matching.placesOf(shown).index[matching.unit(shown, cls)] ?? 0)])
}

/** The text of an element without child elements is the element's own value; else it is `#text`. */
function textSegment(matching: Matching, unit: number, side: Side): string {
  const hasElements = matching.lists.some((list, s) =>
    list?.nodes.some((node) => matching.docs[s as Side].kind(node) === Kind.Element),
  )
  return hasElements ? withOccurrence('#text', matching.placesOf(side).rank[unit] ?? 1) : ''
}
