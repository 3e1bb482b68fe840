import { isRepeatable, Kind } from '../document/kind.ts'
import { surely } from '../document/surely.ts'
import { sameSlice } from '../document/same-text.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityText, partsOf } from '../identity/expression.ts'
import type { Known } from '../identity/known.ts'
import { isPlain } from '../likeness/value.ts'
import type { Value, Values } from '../likeness/value.ts'

/** An entry of a list, as matching sees it: whether it stands in a document or was put together. */
export interface Item {
  readonly kind: Kind
  /** Without capitals where the format takes them for one; empty for what has none. */
  readonly name: string
  readonly value: Value
  /** What a scalar is to a program; undefined where all is text. */
  readonly sort: string | undefined
  /** Whether only its place and its value tell it apart: it has nothing inside that could. */
  readonly isPlain: boolean
  /** By an identity; undefined where it has none. */
  identity(by: IdentityExpression): string | undefined
  isSame(other: Item): boolean
}

/** An entry of a document; its value is worked out when it is asked for. */
export class NodeItem implements Item {
  readonly kind: Kind
  readonly name: string

  constructor(
    readonly doc: Doc,
    readonly node: number,
    private readonly known: Known,
  ) {
    this.kind = doc.kind(node)
    this.name = doc.foldedName(node)
  }

  get value(): Value {
    return this.known.values.of(this.doc, this.node)
  }

  get sort(): string | undefined {
    return this.doc.scalarSort(this.node)
  }

  get isPlain(): boolean {
    const { doc, node, kind } = this
    if (isRepeatable(kind)) return doc.isChildless(node)
    return kind === Kind.Object || kind === Kind.Array ? isPlain(this.value) : kind !== Kind.Member
  }

  identity(by: IdentityExpression): string | undefined {
    return identityText(this.doc, this.node, by)
  }

  isSame(other: Item): boolean {
    if (
      other instanceof NodeItem &&
      sameSlice(this.doc.tree, this.node, other.doc.tree, other.node)
    )
      return true
    return this.value === other.value
  }
}

/** An entry that is a value and stands nowhere. */
export class ValueItem implements Item {
  readonly kind: Kind
  readonly name: string
  readonly sort: string | undefined
  readonly isPlain: boolean

  constructor(readonly value: Value) {
    this.kind = value.kind
    this.name = value.name
    this.sort = value.sort
    this.isPlain = isPlain(value)
  }

  identity(by: IdentityExpression): string | undefined {
    return partsOf(by, (path) => textAt(this.value, path))?.join('\0')
  }

  isSame(other: Item): boolean {
    return this.value === other.value
  }
}

/** The text at a path below an entry; undefined where there is none. */
function textAt(entry: Value, path: readonly string[]): string | undefined {
  let value: Value | undefined = entry
  for (const step of path) {
    value = value.kind === Kind.Member ? value.parts[0] : value
    value = value === undefined ? undefined : partAt(value, step)
    if (value === undefined) return undefined
  }
  const found = value.kind === Kind.Member ? value.parts[0] : value
  return found?.text === undefined ? undefined : withoutSort(found)
}

function partAt({ kind, parts }: Value, step: string): Value | undefined {
  if (step === '[0]') {
    const [first] = kind === Kind.Array ? parts : []
    return first?.sort === 'string' ? first : undefined
  }
  const isAttribute = step.startsWith('@')
  const name = isAttribute ? step.slice(1) : step
  return parts.find((part) => (part.kind === Kind.Attribute) === isAttribute && part.name === name)
}

/** The text of a scalar as identities have it. */
function withoutSort({ sort, text = '' }: Value): string {
  return sort === 'string' ? text.replace(/^"/, '') : text
}

/** What an entry holds under its name. */
export function contentOf({ value }: Item, values: Values): Value {
  const [held] = value.parts
  if (value.kind === Kind.Member && held !== undefined) return held
  return values.holding({ kind: value.kind, name: '', text: value.text }, value.parts)
}

/** The values that an entry holds. */
export function valuesIn({ kind, value }: Item): readonly Value[] {
  return kind === Kind.Member ? surely(value.parts[0]).parts : value.parts
}
