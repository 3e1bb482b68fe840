import { Kind } from '../document/kind.ts'
import type { Tree } from '../document/tree.ts'
import { firstContent } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'

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
  private readonly all: Value[] = []
  private readonly byName: Map<string, Named>[] = []
  private readonly ofNodes = new Map<Tree, Int32Array>()

  /** The value of a node. */
  of(doc: Doc, node: number): Value {
    let nodes = this.ofNodes.get(doc.tree)
    if (nodes === undefined) {
      nodes = new Int32Array(doc.tree.length)
      this.ofNodes.set(doc.tree, nodes)
    }
    // 0 is for what was not asked for yet
    const known = this.all[(nodes[node] ?? 0) - 1]
    if (known !== undefined) return known
    const value = this.read(doc, node)
    nodes[node] = value.id + 1
    return value
  }

  /** The value that holds some parts. */
  holding(
    { kind, name, text }: Pick<Value, 'kind' | 'name'> & { text?: string | undefined },
    parts: readonly Value[],
  ): Value {
    return this.once({ kind, name, text, sort: undefined, parts })
  }

  /** A value without what stands directly in it at a step, as identities name that. */
  without(value: Value, step: string): Value {
    const parts = value.parts.filter((part) => stepTo(part) !== step)
    return parts.length === value.parts.length ? value : this.once({ ...value, parts })
  }

  private read(doc: Doc, node: number): Value {
    const { tree, format } = doc
    const kind = tree.kind(node)
    const name = NAMED.has(kind) ? doc.foldedName(node) : ''
    if (LEAVES.has(kind)) {
      const sort = kind === Kind.Scalar ? format.scalarSort(tree, node) : undefined
      return this.once({ kind, name, sort, text: doc.value(node), parts: NOTHING })
    }
    const isText = kind === Kind.Element && doc.isLeafElement(node)
    const parts: Value[] = []
    const stop = isText ? firstContent(tree, node) : tree.next(node)
    for (let child = node + 1; child < stop; child = tree.next(child))
      if (tree.kind(child) !== Kind.Comment) parts.push(this.of(doc, child))
    const text = isText ? doc.elementText(node) : undefined
    return this.once({ kind, name, sort: undefined, text, parts })
  }

  /** The one value that is so. */
  private once(value: Omit<Value, 'id'>): Value {
    const { kind, name, text, parts } = value
    const named = this.named(kind, name)
    // most have either a text or one part: then no key has to be put together
    const isLeaf = parts.length === 0 && text !== undefined
    const [only] = parts
    const key: string | number = isLeaf
      ? text
      : text === undefined && parts.length === 1 && only !== undefined
        ? only.id
        : keyOf(value)
    const known = (isLeaf ? named.leaves : named.others).get(key)
    if (known !== undefined) return known
    const made = { ...value, id: this.all.length }
    this.all.push(made)
    ;(isLeaf ? named.leaves : named.others).set(key, made)
    return made
  }

  private named(kind: Kind, name: string): Named {
    const ofKind = (this.byName[kind] ??= new Map<string, Named>())
    let named = ofKind.get(name)
    if (named === undefined) ofKind.set(name, (named = { leaves: new Map(), others: new Map() }))
    return named
  }
}

/** The values of one kind and name: by their text, by their one part, or by both. */
interface Named {
  leaves: Map<string | number, Value>
  others: Map<string | number, Value>
}

function keyOf({ kind, text, parts }: Omit<Value, 'id'>): string {
  let key = text === undefined ? '' : `${text.length} ${text}`
  for (const { id } of inComparedOrder(kind, parts)) key += ` ${id}`
  return key
}

const NOTHING: readonly Value[] = []

const LEAVES: ReadonlySet<Kind> = new Set([
  Kind.Attribute,
  Kind.Property,
  Kind.Scalar,
  Kind.Text,
  Kind.Instruction,
])
const NAMED: ReadonlySet<Kind> = new Set([
  Kind.Element,
  Kind.Attribute,
  Kind.Instruction,
  Kind.Member,
  Kind.Section,
  Kind.Property,
])

/** Attributes, and what objects and sections hold, have no order but among those of one name. */
function inComparedOrder(kind: Kind, parts: readonly Value[]): readonly Value[] {
  const isUnordered = kind === Kind.Object || kind === Kind.Section
  if ((!isUnordered && kind !== Kind.Element) || parts.length < 2) return parts
  const isFree = (part: Value): boolean => isUnordered || part.kind === Kind.Attribute
  const free = parts.filter(isFree)
  free.sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0))
  return isUnordered ? free : [...free, ...parts.filter((part) => !isFree(part))]
}

/** How identities name what stands in an entry. */
export function stepTo({ kind, name }: Value): string {
  return kind === Kind.Attribute ? `@${name}` : name
}

/** Whether an entry is nothing but its text, or has nothing in it: only its place and its value tell it. */
export function isPlain({ kind, text, parts }: Value): boolean {
  if (kind === Kind.Element) return parts.length === 0
  return text !== undefined || parts.length === 0
}

/** The texts directly in an entry, as identities name them; those of a list by their index. */
export function wordsIn({ parts }: Value): Map<string, string> {
  const names = new Map<string, string>()
  for (const [at, part] of parts.entries()) {
    const { text } = part.kind === Kind.Member ? (part.parts[0] ?? part) : part
    if (text !== undefined) names.set(stepTo(part) || `[${at}]`, text)
  }
  return names
}
