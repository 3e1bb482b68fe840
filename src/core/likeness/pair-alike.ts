import type { Pair } from './only-ones.ts'

/**
 * The pairs, in order in both sequences, with the greatest sum of likeness; none below `least`.
 * The alignment of Needleman and Wunsch (1970), with no price on gaps.
 */
export function pairAlike(
  [rows, columns]: Pair,
  alike: (a: number, b: number) => number,
  least: number,
): Pair[] {
  const width = columns + 1
  const best = new Float64Array((rows + 1) * width)
  const score = new Float64Array(rows * columns)
  const at = (i: number, j: number): number => best[i * width + j] ?? 0
  for (let i = rows - 1; i >= 0; i--) {
    for (let j = columns - 1; j >= 0; j--) {
      const likeness = alike(i, j)
      score[i * columns + j] = likeness
      const paired = likeness >= least ? likeness + at(i + 1, j + 1) : -1
      best[i * width + j] = Math.max(paired, at(i + 1, j), at(i, j + 1))
    }
  }
  const pairs: Pair[] = []
  let [i, j] = [0, 0]
  while (i < rows && j < columns) {
    const likeness = score[i * columns + j] ?? 0
    if (likeness >= least && at(i, j) === likeness + at(i + 1, j + 1)) pairs.push([i++, j++])
    else if (at(i, j) === at(i + 1, j)) i++
    else j++
  }
  return pairs
}
