import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'

/** Where a leaf's value begins, quotes included: what stands before is its name and form. */
export function valueStart({ tree }: Doc, node: number): number {
  switch (tree.kind(node)) {
    case Kind.Attribute:
      return tree.bodyStart(node) - 1
    case Kind.Property:
      return tree.bodyStart(node)
    default:
      return tree.start(node)
  }
}
