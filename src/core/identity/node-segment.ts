import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { identitySegment, quoteName } from '../keys/key.ts'
import type { IdentityExpression } from './expression.ts'
import { identityOf } from './expression.ts'

/**
 * What names a node in a key by itself: `@name`, its name, `name[identity]`, or `[identity]` where it has no
 * name; empty where nothing does.
 *
 * @param identity what tells it from its siblings, where something does
 */
export function nodeSegment(
  doc: Doc,
  node: number,
  identity: IdentityExpression | undefined,
): string {
  const name = doc.name(node)
  const found = identity === undefined ? undefined : identityOf(doc, node, identity)
  const inBrackets = found === undefined ? '' : identitySegment(found)
  if (name === '') return inBrackets
  return (doc.kind(node) === Kind.Attribute ? '@' : '') + quoteName(name) + inBrackets
}
