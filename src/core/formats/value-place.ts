import { Kind } from '../document/kind.ts'
import type { Doc } from './doc.ts'

/** Where the thing that a key names begins, in UTF-16 code units: a JSON value's member, where it has one. */
export function valuePlace({ tree }: Doc, node: number): number {
  const isMembers =
    node > 0 && tree.kind(node - 1) === Kind.Member && tree.end(node - 1) === tree.end(node)
  return tree.start(isMembers ? node - 1 : node)
}
