import type { Doc } from '../formats/doc.ts'
import { keySegments, unquoteName } from './key.ts'

/** The value at a key that has no identities, such as `release` or `about/version/@text`; undefined where there is none. */
export function valueAtKey(doc: Doc, key: string): string | undefined {
  let node = doc.root()
  for (const { name, identity } of keySegments(key)) {
    if (identity !== undefined || node < 0) return undefined
    node = doc.childAt(node, unquoteName(name))
  }
  return node < 0 ? undefined : doc.textOf(node)
}
