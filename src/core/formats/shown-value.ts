import { Kind } from '../document/kind.ts'
import { canonical } from './canonical.ts'
import type { Doc } from './doc.ts'

/** What a report shows of a node: a leaf's value as it stands in the source, an entry's source text. */
export function shownValue(doc: Doc, node: number): string {
  const { tree } = doc
  switch (doc.kind(node)) {
    case Kind.Attribute:
    case Kind.Property:
    case Kind.Scalar:
      return tree.body(node)
    case Kind.Text:
      return tree.body(node).trim()
    case Kind.Member:
      return shownValue(doc, doc.memberValue(node))
    case Kind.Element:
      return isText(doc, node) ? tree.body(node).trim() : doc.slice(node)
    default:
      return doc.slice(node).trimEnd()
  }
}

/** The text of an element that holds no others, attributes or not; undefined for all else. */
export function ownText(doc: Doc, node: number): string | undefined {
  const isOwn = doc.kind(node) === Kind.Element && doc.isLeafElement(node)
  return isOwn ? doc.tree.body(node).trim() : undefined
}

function isText(doc: Doc, node: number): boolean {
  const first = node + 1
  return (
    doc.isLeafElement(node) && doc.kind(Math.min(first, doc.tree.length - 1)) !== Kind.Attribute
  )
}

/** The content of a node in the form in which conflicts are named; null where there is no node. */
export function decodedValue(doc: Doc, node: number): string | null {
  return node < 0 ? null : canonical(doc, node)
}

/** The JSON type of a value or of a member's value; undefined in the other formats. */
export function jsonType(doc: Doc, node: number): string | undefined {
  switch (doc.kind(node)) {
    case Kind.Member:
      return jsonType(doc, doc.memberValue(node))
    case Kind.Object:
      return 'object'
    case Kind.Array:
      return 'array'
    case Kind.Scalar:
      return doc.scalarSort(node)
    default:
      return undefined
  }
}
