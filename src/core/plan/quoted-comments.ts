import type { Side, Triple } from '../document/sides.ts'
import { OLD, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { carryProblems } from './carry-problems.ts'
import { commentsInside, saidBy, sayingElse } from './comments.ts'
import type { Telling } from './plan.ts'

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
