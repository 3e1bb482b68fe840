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
  const times = ({ comments }: Doc, text: string): number => comments.get(text) ?? 0
  const others = [docs[OLD], resultOf()]
  const isFound = (text: string): boolean =>
    others.every((doc) => times(doc, text) >= times(docs[NEW], text))
  return problems.filter(({ lost }) => lost === undefined || !isFound(lost))
}
