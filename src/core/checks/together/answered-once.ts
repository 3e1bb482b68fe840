/**
 * A question of which each answer is worked out once.
 *
 * @param nameOf tells questions apart: two of one name have one answer
 */
export function answeredOnce<Question extends readonly unknown[]>(
  nameOf: (...question: Question) => string,
  ask: (...question: Question) => boolean,
): (...question: Question) => boolean {
  const known = new Map<string, boolean>()
  return (...question) => {
    const name = nameOf(...question)
    const answer = known.get(name) ?? ask(...question)
    known.set(name, answer)
    return answer
  }
}
