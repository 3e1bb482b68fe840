import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { carryProblems } from './carry-problems.ts'
import { commentsIn, commentsInside, saidBy, sayingElse } from './comments.ts'
import type { Telling } from './plan.ts'
import { NOTHING_TOLD } from './plan.ts'

/** Comments that do not stand in the result are quoted. */
export function quoted(doc: Doc, side: Side, comments: readonly number[]): Telling[] {
  return comments.map((comment) => ({
    tell: 'loss',
    problem: carryProblems.commentQuoted(doc, comment, side),
  }))
}

/** What is told of a value of a side that does not stand: the comments in it that old's has not. */
export function quotedInside(docs: Triple<Doc>, nodes: Triple<number>, side: Side): Telling[] {
  const inside = triple((each) => (nodes[each] < 0 ? [] : commentsInside(docs[each], nodes[each])))
  const own = sayingElse(docs[side], inside[side], saidBy(docs[OLD], inside[OLD]))
  return quoted(docs[side], side, own)
}

/** What is told of a member whose lead is not new's: new's comments between name and value that old and mine have not. */
export function quotedInLead(docs: Triple<Doc>, nodes: Triple<number>): readonly Telling[] {
  if (nodes[NEW] < 0 || !docs[NEW].hasComments) return NOTHING_TOLD
  const [old, fresh, mine] = triple((side) =>
    nodes[side] < 0 ? [] : commentsIn(docs[side], nodes[side]),
  )
  const known = new Set([...saidBy(docs[OLD], old), ...saidBy(docs[MINE], mine)])
  return quoted(docs[NEW], NEW, sayingElse(docs[NEW], fresh, known))
}
