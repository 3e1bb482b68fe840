import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import { Doc } from '../formats/doc.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityOf } from '../identity/expression.ts'
import { ownComments } from './comments.ts'

/** An entry that one side removed: what it was elsewhere, and what tells it apart. */
export interface LostEntry {
  doc: Doc
  node: number
  identity: IdentityExpression | undefined
}

/**
 * The comment among a container's units that is the entry, commented out: its text, read in the format
 * of the file, holds an entry of the same name and identity. -1 where there is none.
 */
export function findCommentedOut(doc: Doc, units: UnitList, lost: LostEntry): number {
  for (let unit = 0; unit < units.length; unit++) {
    const own = units.isComment(unit) ? [units.node[unit] ?? 0] : ownComments(units, unit)
    const found = own.find((comment) => holdsEntry(doc, comment, lost))
    if (found !== undefined) return found
  }
  return -1
}

function holdsEntry(doc: Doc, comment: number, lost: LostEntry): boolean {
  const { format } = doc
  const body = doc.tree.body(comment)
  const isMember = format.name === 'json' && lost.doc.kind(lost.node) === Kind.Member
  const text = isMember ? `{${body.trim().replace(/,$/, '')}}` : body.trim().replace(/,$/, '')
  if (text === '') return false
  const { tree, problems } = format.read(text)
  if (problems.length > 0) return false
  const inside = new Doc(format, tree)
  const outer = isMember || format.name === 'ini' ? inside.children(inside.root()) : [inside.root()]
  return outer.some((node) => node >= 0 && isSame(inside, node, lost))
}

function isSame(doc: Doc, node: number, lost: LostEntry): boolean {
  if (doc.kind(node) !== lost.doc.kind(lost.node) || doc.name(node) !== lost.doc.name(lost.node))
    return false
  if (lost.identity === undefined) return doc.name(node) !== ''
  const mine = identityOf(doc, node, lost.identity)
  return (
    mine !== undefined &&
    mine.join('\0') === identityOf(lost.doc, lost.node, lost.identity)?.join('\0')
  )
}
