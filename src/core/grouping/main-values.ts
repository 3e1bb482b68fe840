import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { readDoc } from '../formats/doc.ts'
import type { Format } from '../formats/format.ts'

/** A value longer than this tells little at a glance. */
const LONGEST = 24

/** A value inside an entry, by the name that it has there. */
export interface MainValue {
  name: string
  value: string
}

/**
 * The first short values of an entry, given as its source text: numbers before words. Its identity is left
 * out, for that is told by its key. Empty where it is no entry, or cannot be read by itself.
 */
export function mainValues(
  format: Format,
  source: string,
  identity: string,
  most: number,
): MainValue[] {
  const doc = readDoc(format, source)
  if (doc === undefined) return []
  const found: MainValue[] = []
  collect(doc, doc.root(), found)
  const told = found.filter(
    ({ value }) => value !== '' && value.length <= LONGEST && !identity.includes(value),
  )
  const isNumber = ({ value }: MainValue): boolean => /^[-+.0-9]+$/.test(value)
  return [...told.filter(isNumber), ...told.filter((each) => !isNumber(each))].slice(0, most)
}

function collect(doc: Doc, node: number, found: MainValue[]): void {
  if (node < 0) return
  for (const child of doc.children(node)) {
    const name = doc.name(child)
    switch (doc.kind(child)) {
      case Kind.Attribute:
      case Kind.Property:
        found.push({ name, value: doc.value(child) })
        break
      case Kind.Element:
        if (doc.isLeafElement(child)) found.push({ name, value: doc.elementText(child) })
        break
      case Kind.Member: {
        const value = doc.memberValue(child)
        if (doc.kind(value) === Kind.Scalar) found.push({ name, value: doc.tree.body(value) })
        break
      }
      case Kind.Section:
        collect(doc, child, found)
        break
      default:
        break
    }
  }
}
