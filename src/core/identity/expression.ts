import { isBlank, SPACE } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import type { Tree } from '../document/tree.ts'
import { firstContent } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'

const QUOTE = 34
const TILDE = 126
const AMPERSAND = 38
const LESS = 60
const BACKSLASH = 92

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

/** Drawn anew in each run, so that no file can be made whose identities all have one hash. */
const SEED = Math.floor(Math.random() * 2 ** 32)
const FNV_PRIME = 0x01000193

/** A hash of an identity (FNV-1a, http://www.isthe.com/chongo/tech/comp/fnv/, of code units). */
export function hashOf(value: string): number {
  let hash = SEED
  for (let at = 0; at < value.length; at++) hash = Math.imul(hash ^ value.charCodeAt(at), FNV_PRIME)
  return mixed(hash)
}

/** Brings the upper bits, which the last characters have moved most, to the lower ones. */
function mixed(hash: number): number {
  return hash ^ (hash >>> 15)
}

/** An identity that stands in the source as it is: where, in UTF-16 code units, and its hash. */
export class PlainIdentity {
  start = 0
  end = 0
  hash = 0

  /** Looks an entry's identity up; false where it is not there or has to be decoded. */
  read(doc: Doc, entry: number, { parts }: IdentityExpression): boolean {
    const [path] = parts
    if (path === undefined || parts.length > 1) return false
    const node = leafOf(doc.tree, nodeAt(doc, entry, path))
    return node >= 0 && this.readBody(doc.tree, node)
  }

  private readBody({ source, bodyStart, bodyEnd }: Tree, node: number): boolean {
    let [at, end] = [bodyStart[node] ?? 0, bodyEnd[node] ?? 0]
    while (at < end && isBlank(source.charCodeAt(at))) at++
    while (end > at && isBlank(source.charCodeAt(end - 1))) end--
    this.start = at
    this.end = end
    let hash = SEED
    for (; at < end; at++) {
      const code = source.charCodeAt(at)
      if (code < SPACE || code > TILDE || beginsCode(code)) return false
      hash = Math.imul(hash ^ code, FNV_PRIME)
    }
    this.hash = mixed(hash)
    return this.start < end
  }
}

/** Whether a character begins a reference, a section or an escape in one of the formats. */
function beginsCode(code: number): boolean {
  return code === AMPERSAND || code === LESS || code === BACKSLASH
}

/** The leaf that holds the whole value of a node, as text and not as a number; -1 where none does. */
function leafOf(tree: Tree, node: number): number {
  const kind = tree.kind[node]
  if (kind === Kind.Attribute) return node
  if (kind === Kind.Scalar)
    return tree.source.charCodeAt(tree.start[node] ?? 0) === QUOTE ? node : -1
  if (kind !== Kind.Element) return -1
  const child = firstContent(tree, node)
  const isOnly = tree.kind[child] === Kind.Text && tree.next[child] === tree.next[node]
  return isOnly && child < (tree.next[node] ?? 0) ? child : -1
}

/** The node at a path below an entry; -1 where there is none. */
function nodeAt(doc: Doc, entry: number, path: readonly string[]): number {
  let node = entry
  for (let i = 0; i < path.length && node >= 0; i++) node = childNamed(doc, node, path[i] ?? '')
  return node
}

function valueAt(doc: Doc, entry: number, path: readonly string[]): string | undefined {
  const node = nodeAt(doc, entry, path)
  if (node < 0) return undefined
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
