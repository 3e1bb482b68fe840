import { Kind } from '../document/kind.ts'
import type { Tree } from '../document/tree.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'

/**
 * What a node holds, its form and its comments aside. Of one `Values` two that hold the same are one object,
 * so to compare them is `===` (hash consing: Ershov, 1958).
 */
export interface Value {
  readonly id: number
  readonly kind: Kind
  /** Empty for what has none. */
  readonly name: string
  /** The decoded text of a leaf, an element without elements among them; undefined for what holds entries. */
  readonly text: string | undefined
  /** What a program takes a scalar for; undefined where all is text. */
  readonly sort: string | undefined
  /** Attributes, members, items, elements: in the order of the document in which the value was met first. */
  readonly parts: readonly Value[]
}

/** The values of documents, each once. */
export class Values {
  private readonly known = new Map<string, Value>()
  private readonly ofNodes = new Map<Tree, Map<number, Value>>()

  /** The value of a node. */
  of(doc: Doc, node: number): Value {
    let nodes = this.ofNodes.get(doc.tree)
    if (nodes === undefined) this.ofNodes.set(doc.tree, (nodes = new Map()))
    const known = nodes.get(node)
    if (known !== undefined) return known
    const value = this.read(doc, node)
    nodes.set(node, value)
    return value
  }

  /** The value that holds some parts. */
  holding(
    { kind, name, text }: Pick<Value, 'kind' | 'name'> & { text?: string | undefined },
    parts: readonly Value[],
  ): Value {
    return this.once({ kind, name, text, sort: undefined, parts })
  }

  private read(doc: Doc, node: number): Value {
    const kind = doc.kind(node)
    const name = foldName(doc.format, doc.name(node))
    const sort = kind === Kind.Scalar ? doc.format.scalarSort(doc.tree, node) : undefined
    const isLeaf = LEAVES.has(kind)
    const isText = kind === Kind.Element && doc.isLeafElement(node)
    const text = isLeaf ? doc.value(node) : isText ? doc.elementText(node) : undefined
    const parts: Value[] = []
    for (const child of isLeaf ? [] : doc.children(node)) {
      const inside = doc.kind(child)
      if (inside === Kind.Comment || (isText && inside !== Kind.Attribute)) continue
      parts.push(this.of(doc, child))
    }
    return this.once({ kind, name, sort, text, parts })
  }

  /** The one value that is so. */
  private once(value: Omit<Value, 'id'>): Value {
    const { kind, name, text, parts } = value
    const ids = inComparedOrder(kind, parts).map(({ id }) => id)
    const own = text === undefined ? '' : `${text.length}:${text}`
    const key = `${kind}:${name.length}:${name}${own}(${ids.join()})`
    const known = this.known.get(key)
    if (known !== undefined) return known
    const made = { id: this.known.size, ...value }
    this.known.set(key, made)
    return made
  }
}

const LEAVES: ReadonlySet<Kind> = new Set([
  Kind.Attribute,
  Kind.Property,
  Kind.Scalar,
  Kind.Text,
  Kind.Instruction,
])

/** Attributes, and what objects and sections hold, have no order but among those of one name. */
function inComparedOrder(kind: Kind, parts: readonly Value[]): readonly Value[] {
  const isUnordered = kind === Kind.Object || kind === Kind.Section
  if (!isUnordered && kind !== Kind.Element) return parts
  const isFree = (part: Value): boolean => isUnordered || part.kind === Kind.Attribute
  const free = parts.filter(isFree)
  free.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0))
  return isUnordered ? free : [...free, ...parts.filter((part) => !isFree(part))]
}

/** Whether an entry is nothing but its text, or has nothing in it: only its place and its value tell it. */
export function isPlain({ kind, text, parts }: Value): boolean {
  if (kind === Kind.Element) return parts.length === 0
  return text !== undefined || parts.length === 0
}
