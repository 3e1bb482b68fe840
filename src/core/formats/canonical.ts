import { Kind } from '../document/kind.ts'
import type { Doc } from './doc.ts'

/**
 * A text that is the same for two nodes exactly where their content is: names and decoded values,
 * whatever their indentation, quotes, comments, attribute or member order. Parts carry their length,
 * so that no value can pass for a boundary.
 */
export function canonical(doc: Doc, node: number): string {
  switch (doc.kind(node)) {
    case Kind.Element:
      return elementForm(doc, node)
    case Kind.Object:
    case Kind.Section:
      return `{${sized(doc.foldedName(node))}${inNameOrder(doc, node).join('')}}`
    case Kind.Document:
    case Kind.Array:
      return `[${content(doc, node).join('')}]`
    case Kind.Member:
      return sized(doc.name(node)) + canonical(doc, doc.memberValue(node))
    case Kind.Attribute:
    case Kind.Property:
    case Kind.Instruction:
      return sized(doc.foldedName(node)) + sized(doc.value(node))
    case Kind.Text:
    case Kind.Scalar:
      return sized(doc.value(node))
    case Kind.Comment:
      return sized(doc.commentText(node))
  }
}

/** Whether two nodes have the same content. */
export function sameContent(a: Doc, nodeA: number, b: Doc, nodeB: number): boolean {
  return a.slice(nodeA) === b.slice(nodeB) || canonical(a, nodeA) === canonical(b, nodeB)
}

function sized(text: string): string {
  return `${text.length}:${text}`
}

function elementForm(doc: Doc, node: number): string {
  const attributes: string[] = []
  for (const child of doc.children(node)) {
    if (doc.kind(child) === Kind.Attribute) attributes.push(canonical(doc, child))
  }
  const inside = doc.isLeafElement(node)
    ? sized(doc.elementText(node))
    : content(doc, node).join('')
  return `<${sized(doc.name(node))}${attributes.sort().join('')}>${inside}<`
}

/** The forms of the children in order, comments and attributes left out. */
function content(doc: Doc, node: number): string[] {
  const forms: string[] = []
  for (const child of doc.children(node)) {
    const kind = doc.kind(child)
    if (kind !== Kind.Comment && kind !== Kind.Attribute) forms.push(canonical(doc, child))
  }
  return forms
}

/** The forms of members or properties by name; those of one name keep their order. */
function inNameOrder(doc: Doc, node: number): string[] {
  const named: { name: string; form: string }[] = []
  for (const child of doc.children(node)) {
    if (doc.kind(child) === Kind.Comment) continue
    named.push({ name: doc.foldedName(child), form: canonical(doc, child) })
  }
  return named.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0)).map((n) => n.form)
}
