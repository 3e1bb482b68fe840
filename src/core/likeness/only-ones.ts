import { longestIncreasing } from './rising.ts'

/** What is compared: equal by `===`. */
export type Token = string | number

/** The ranks of two things, one in each of two sequences, that are taken for one. */
export type Pair = readonly [a: number, b: number]

/** Where each token of a stretch stands; -1 for one that stands there more than once. */
export function onlyPlaces(
  tokens: readonly Token[],
  [from, to]: Pair = [0, tokens.length],
): Map<Token, number> {
  const places = new Map<Token, number>()
  for (let at = from; at < to; at++) {
    const token = tokens[at]
    if (token !== undefined) places.set(token, places.has(token) ? -1 : at)
  }
  return places
}

/** What stands once in a stretch of either sequence, wherever it stands there. */
export function onlyPairs(
  a: readonly Token[],
  b: readonly Token[],
  range?: { a: Pair; b: Pair },
): Pair[] {
  const inB = onlyPlaces(b, range?.b)
  const found: Pair[] = []
  for (const [token, i] of onlyPlaces(a, range?.a)) {
    const j = inB.get(token) ?? -1
    if (i >= 0 && j >= 0) found.push([i, j])
  }
  return found
}

/** The same, as far as it is in order. */
export function onlyInBoth(
  a: readonly Token[],
  b: readonly Token[],
  range: { a: Pair; b: Pair },
): Pair[] {
  const found = onlyPairs(a, b, range)
  const stays = longestIncreasing(found.map(([, j]) => j))
  return found.filter((_, at) => stays[at] === 1)
}
