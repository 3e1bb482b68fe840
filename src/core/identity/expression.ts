import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'

const QUOTE = 34

/** Where an entry's identity stands in it: `@id`, `name`, `about/name`, `[0]`, or several joined by `|`. */
export interface IdentityExpression {
  text: string
  /** Each part is a path; its last step may be an attribute, with its `@`. */
  parts: readonly (readonly string[])[]
}

export function parseIdentity(text: string): IdentityExpression {
  return { text, parts: text.split('|').map((part) => part.trim().split('/')) }
}

/** The decoded identity of an entry, or undefined where a part of it is not there or empty. */
export function identityOf(
  doc: Doc,
  entry: number,
  identity: IdentityExpression,
): string[] | undefined {
  const values: string[] = []
  for (const path of identity.parts) {
    const value = valueAt(doc, entry, path)
    if (value === undefined || value === '') return undefined
    values.push(value)
  }
  return values
}

/** The same as one text, its parts parted by a character that no value holds. */
export function identityText(
  doc: Doc,
  entry: number,
  identity: IdentityExpression,
): string | undefined {
  const [path] = identity.parts
  if (path !== undefined && identity.parts.length === 1) {
    const value = valueAt(doc, entry, path)
    return value === '' ? undefined : value
  }
  return identityOf(doc, entry, identity)?.join('\0')
}

function valueAt(doc: Doc, entry: number, path: readonly string[]): string | undefined {
  let node = entry
  for (const step of path) {
    node = childNamed(doc, node, step)
    if (node < 0) return undefined
  }
  switch (doc.kind(node)) {
    case Kind.Element:
      return doc.isLeafElement(node) ? doc.elementText(node) : undefined
    case Kind.Attribute:
      return doc.value(node)
    case Kind.Scalar:
      return scalarText(doc, node)
    default:
      return undefined
  }
}

/** The decoded value of a scalar without the mark of its type. */
function scalarText(doc: Doc, node: number): string {
  const { tree } = doc
  const raw = tree.body(node)
  const isQuoted = tree.source.charCodeAt(tree.start[node] ?? 0) === QUOTE
  if (isQuoted && !raw.includes('\\')) return raw.trim()
  const value = doc.value(node)
  return value.startsWith('"') ? value.slice(1) : value
}

/** The attribute (`@name`), child element or member value of that name; -1 where there is none. */
function childNamed(doc: Doc, node: number, step: string): number {
  const { tree } = doc
  const stop = tree.next[node] ?? 0
  if (step === '[0]') return doc.kind(node) === Kind.Array ? firstItem(doc, node) : -1
  const attribute = step.startsWith('@')
  const name = attribute ? step.slice(1) : step
  for (let child = node + 1; child < stop; child = tree.next[child] ?? stop) {
    const kind = tree.kind[child]
    if (attribute) {
      if (kind !== Kind.Attribute) return -1
      if (doc.isNamed(child, name)) return child
    } else if (kind === Kind.Element && doc.isNamed(child, name)) return child
    else if (kind === Kind.Member && doc.isNamed(child, name)) return doc.memberValue(child)
  }
  return -1
}

/** The first item of an array that is a tuple: `["CUT", 1]`; -1 where it is no string. */
function firstItem(doc: Doc, array: number): number {
  const first = doc.children(array).find((child) => doc.kind(child) !== Kind.Comment) ?? -1
  const isString = first >= 0 && doc.kind(first) === Kind.Scalar && doc.slice(first).startsWith('"')
  return isString ? first : -1
}
