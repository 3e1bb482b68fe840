import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from './expression.ts'
import { identityText } from './expression.ts'
import type { Scope } from './keying.ts'
import { sameSlice } from './links.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/** Longer lists are matched by key: here each name is compared with all before it. */
export const MOST_UNITS = 24

/**
 * Whether three lists have the same entries in the same order, each of another name, so that they need
 * no keys to be matched: so it is in most containers of which one value was changed.
 */
export function areAligned(
  docs: Triple<Doc>,
  lists: Triple<UnitList | undefined>,
  scope: Scope,
): boolean {
  const [old, fresh, mine] = lists
  if (old === undefined || fresh === undefined || mine === undefined) return false
  const { length } = old
  if (length > MOST_UNITS || fresh.length !== length || mine.length !== length) return false
  const names: string[] = []
  for (let unit = 0; unit < length; unit++) {
    const nodes = [old.node[unit] ?? 0, fresh.node[unit] ?? 0, mine.node[unit] ?? 0] as const
    const name = sharedName(docs, nodes)
    if (name === undefined || (name !== SAME_WORDS && names.includes(name))) return false
    if (name !== SAME_WORDS) names.push(name)
    if (docs[OLD].kind(nodes[OLD]) === Kind.Element && !areOneElement(docs, nodes, scope))
      return false
  }
  return true
}

const SAME_WORDS = ' '

/** The kind and name that a unit has in all three; of comments and texts, whether they are the same. */
function sharedName(docs: Triple<Doc>, nodes: Triple<number>): string | undefined {
  const kind = docs[OLD].kind(nodes[OLD])
  if (docs[NEW].kind(nodes[NEW]) !== kind || docs[MINE].kind(nodes[MINE]) !== kind) return undefined
  switch (kind) {
    case Kind.Element:
    case Kind.Attribute:
    case Kind.Member:
    case Kind.Section:
    case Kind.Property: {
      const name = docs[OLD].name(nodes[OLD])
      const isShared = docs[NEW].name(nodes[NEW]) === name && docs[MINE].name(nodes[MINE]) === name
      return isShared ? `${kind}${name}` : undefined
    }
    case Kind.Comment:
    case Kind.Text:
      return areSame(docs, nodes) ? SAME_WORDS : undefined
    default:
      return areSame(docs, nodes) ? `${kind}` : undefined
  }
}

/** Whether a node has the same text in all documents. */
export function areSame(docs: Triple<Doc>, [old, fresh, mine]: Triple<number>): boolean {
  return (
    sameSlice(docs[OLD].tree, old, docs[NEW].tree, fresh) &&
    sameSlice(docs[OLD].tree, old, docs[MINE].tree, mine)
  )
}

/** Elements are told by their identity even where they stand alone: it must not have changed. */
export function areOneElement(docs: Triple<Doc>, nodes: Triple<number>, scope: Scope): boolean {
  if (scope.isDocument) return true
  const { identities, place } = scope
  const name = docs[OLD].name(nodes[OLD])
  if (identities.isConfigured(place, name)) return areSame(docs, nodes)
  const identity = identityBeside(docs, nodes, scope)
  return identity === undefined || sharedIdentity(docs, nodes, identity) !== undefined
}

/** The identity of an element whose name stands once in each document; undefined where the name tells it. */
export function identityBeside(
  docs: Triple<Doc>,
  nodes: Triple<number>,
  { identities, place }: Scope,
): IdentityExpression | undefined {
  const name = docs[OLD].name(nodes[OLD])
  const isPlain = docs.every((doc, side) => doc.isChildless(nodes[side as Side]))
  if (isPlain && !identities.isConfigured(place, name)) return undefined
  return identities.ofElements(place, name)
}

/** The identity that an entry has in all documents; undefined where one lacks it or has another. */
export function sharedIdentity(
  docs: Triple<Doc>,
  nodes: Triple<number>,
  identity: IdentityExpression,
): string | undefined {
  const [old, fresh, mine] = docs.map((doc, side) =>
    identityText(doc, nodes[side as Side], identity),
  )
  return old === fresh && old === mine ? old : undefined
}
