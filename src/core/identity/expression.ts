import { timesOf } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'

/** Where an entry's identity stands in it: `@id`, `name`, `about/name`, `[0]`, or several joined by `|`. */
export interface IdentityExpression {
  text: string
  /** Each part is a path; its last step may be an attribute, with its `@`. */
  parts: readonly (readonly string[])[]
}

export function parseIdentity(text: string): IdentityExpression {
  return { text, parts: text.split('|').map((part) => part.trim().split('/')) }
}

/** The decoded identity of an entry as people read it, or undefined where a part of it is not there or empty. */
export function identityOf(
  doc: Doc,
  entry: number,
  identity: IdentityExpression,
): string[] | undefined {
  return partsOf(identity, (path) => textAt(doc, entry, path))
}

/** An identity's parts by whatever gives the value at a path; undefined where one is not there or empty. */
export function partsOf(
  { parts }: IdentityExpression,
  valueOf: (path: readonly string[]) => string | undefined,
): string[] | undefined {
  const values: string[] = []
  for (const path of parts) {
    const value = valueOf(path)
    if (value === undefined || value === '') return undefined
    values.push(value)
  }
  return values
}

/** The identity in the form in which two are compared: one text, its parts parted by a character that no value holds. */
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
  return partsOf(identity, (part) => valueAt(doc, entry, part))?.join('\0')
}

/** The node at a path below an entry; -1 where there is none. */
function nodeAt(doc: Doc, entry: number, path: readonly string[]): number {
  let node = entry
  for (let i = 0; i < path.length && node >= 0; i++) node = stepFrom(doc, node, path[i] ?? '')
  return node
}

function textAt(doc: Doc, entry: number, path: readonly string[]): string | undefined {
  const node = nodeAt(doc, entry, path)
  return node < 0 ? undefined : doc.textOf(node)
}

function valueAt(doc: Doc, entry: number, path: readonly string[]): string | undefined {
  const node = nodeAt(doc, entry, path)
  if (node < 0) return undefined
  // two ways to write one number are one identity
  return doc.scalarSort(node) === 'number' ? doc.value(node) : doc.textOf(node)
}

/** What a step names: the attribute (`@name`), child element or member value of that name; -1 for none. */
function stepFrom(doc: Doc, node: number, step: string): number {
  if (step !== '[0]') return doc.childAt(node, step)
  return doc.kind(node) === Kind.Array ? firstItem(doc, node) : -1
}

/** The first item of an array that is a tuple: `["CUT", 1]`; -1 where it is no string. */
function firstItem(doc: Doc, array: number): number {
  const first = doc.children(array).find((child) => doc.kind(child) !== Kind.Comment) ?? -1
  if (first < 0 || doc.kind(first) !== Kind.Scalar) return -1
  return doc.slice(first).startsWith('"') ? first : -1
}

/** How many entries an identity does not tell: they lack it, or share it with another of their container. */
export function untoldAmong(
  doc: Doc,
  groups: readonly (readonly number[])[],
  identity: IdentityExpression,
): number {
  return groups.reduce((sum, siblings) => {
    const values = siblings.map((node) => identityText(doc, node, identity))
    const times = timesOf(values)
    const isUntold = (value: string | undefined): boolean =>
      value === undefined || (times.get(value) ?? 0) > 1
    return sum + values.filter(isUntold).length
  }, 0)
}
