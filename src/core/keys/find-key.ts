import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { keySegments, unquoteName } from './key.ts'

/** The value at a key that has no identities, such as `release` or `about/version/@text`; undefined where there is none. */
export function valueAtKey(doc: Doc, key: string): string | undefined {
  let node = doc.root()
  for (const { name, identity } of keySegments(key)) {
    if (identity !== undefined) return undefined
    node = childNamed(doc, node, unquoteName(name))
    if (node < 0) return undefined
  }
  switch (doc.kind(node)) {
    case Kind.Element:
      return doc.isLeafElement(node) ? doc.elementText(node) : undefined
    case Kind.Scalar: {
      const value = doc.value(node)
      // a number as it stands: in the form in which numbers are compared nobody would know it
      return value.startsWith('"') ? value.slice(1) : doc.tree.body(node)
    }
    case Kind.Attribute:
    case Kind.Property:
      return doc.value(node)
    default:
      return undefined
  }
}

function childNamed(doc: Doc, parent: number, name: string): number {
  const isAttribute = name.startsWith('@')
  const wanted = foldName(doc.format, isAttribute ? name.slice(1) : name)
  for (const child of doc.children(parent)) {
    const kind = doc.kind(child)
    const fits = isAttribute
      ? kind === Kind.Attribute
      : kind === Kind.Element ||
        kind === Kind.Member ||
        kind === Kind.Section ||
        kind === Kind.Property
    if (!fits || foldName(doc.format, doc.name(child)) !== wanted) continue
    return kind === Kind.Member ? doc.memberValue(child) : child
  }
  return -1
}
