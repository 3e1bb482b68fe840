import { timesOf } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Triple } from '../document/sides.ts'
import { NEW, OLD } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { InputProblem } from '../plan/telling.ts'

/**
 * All but the notes of comments that vanilla did not bring and that the result has as often as vanilla: what is lost
 * with an entry may stand elsewhere, too.
 *
 * @param resultOf reads the result; called only where a comment may be lost
 */
export function withoutFound(
  problems: readonly InputProblem[],
  docs: Triple<Doc>,
  resultOf: () => Doc,
): readonly InputProblem[] {
  if (problems.every(({ lost }) => lost === undefined)) return problems
  const [old, fresh, result] = [docs[OLD], docs[NEW], resultOf()].map(commentsOf)
  const timesIn = (comments: Comments, text: string): number => comments?.get(text) ?? 0
  const isFound = (text: string): boolean =>
    [old, result].every((comments) => timesIn(comments, text) >= timesIn(fresh, text))
  return problems.filter(({ lost }) => lost === undefined || !isFound(lost))
}

type Comments = ReadonlyMap<string, number> | undefined

/** How often each comment stands in a document. */
function commentsOf(doc: Doc): Comments {
  const texts: string[] = []
  for (let node = 0; node < doc.tree.length; node++)
    if (doc.kind(node) === Kind.Comment) texts.push(doc.commentText(node))
  return timesOf(texts)
}
