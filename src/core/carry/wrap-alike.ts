import type { Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import { splice } from '../document/splice.ts'
import type { Doc } from '../formats/doc.ts'
import type { FoundWrapping } from '../plan/wrappings.ts'

/** The documents with the containers that one of them has around entries around the same entries in each. */
export function wrapAlike(docs: Triple<Doc>, found: readonly FoundWrapping[]): Triple<Doc> {
  return triple((side) => {
    const parts = found.flatMap(({ replaced }) => replaced[side])
    const doc = docs[side]
    return parts.length === 0 ? doc : doc.respliced(splice(doc.tree.source, parts))
  })
}
