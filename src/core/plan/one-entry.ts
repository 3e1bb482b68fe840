import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES } from '../document/sides.ts'
import { sameSlice } from '../document/same-text.ts'
import type { Doc } from '../formats/doc.ts'
import { customarySteps } from '../identity/candidates.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityText, parseIdentity } from '../identity/expression.ts'
import type { Scope } from '../match/tell-apart.ts'

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
  if (identity === undefined) return haveOneName(docs, nodes)
  return sharedIdentity(docs, nodes, identity) !== undefined
}

/** The identity of an element whose name stands once in each document; undefined where the name tells it. */
export function identityBeside(
  docs: Triple<Doc>,
  nodes: Triple<number>,
  { identities, place }: Pick<Scope, 'identities' | 'place'>,
): IdentityExpression | undefined {
  const name = docs[OLD].name(nodes[OLD])
  const isPlain = SIDES.every((side) => docs[side].isChildless(nodes[side]))
  if (isPlain && !identities.isConfigured(place, name)) return undefined
  return identities.ofNamed(place, name)?.identity
}

/** Whether an element that stands alone is called the same in all documents, whatever names it by custom. */
export function haveOneName(docs: Triple<Doc>, nodes: Triple<number>): boolean {
  if (areSame(docs, nodes)) return true
  return customarySteps(docs[OLD], nodes[OLD]).every(
    (step) => sharedIdentity(docs, nodes, parseIdentity(step)) !== undefined,
  )
}

/** The identity that an entry has in all documents; undefined where one lacks it or has another. */
export function sharedIdentity(
  docs: Triple<Doc>,
  nodes: Triple<number>,
  identity: IdentityExpression,
): string | undefined {
  const old = identityText(docs[OLD], nodes[OLD], identity)
  const isShared = ([NEW, MINE] as const).every(
    (side) => identityText(docs[side], nodes[side], identity) === old,
  )
  return isShared ? old : undefined
}
