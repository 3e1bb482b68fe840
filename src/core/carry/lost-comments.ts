import type { Triple } from '../document/sides.ts'
import { NEW, OLD } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { timesSaid } from '../plan/comments.ts'
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
  const fresh = timesSaid(docs[NEW])
  const others = [docs[OLD], resultOf()].map(timesSaid)
  const isFound = (text: string): boolean =>
    others.every((said) => (said.get(text) ?? 0) >= (fresh.get(text) ?? 0))
  return problems.filter(({ lost }) => lost === undefined || !isFound(lost))
}
