/**
 * The index of the first of ascending numbers that is not less than a value; how many there are where
 * all are less. A search by halves.
 *
 * @param length how many of the numbers count
 */
export function firstNotBefore(
  numbers: ArrayLike<number>,
  value: number,
  length = numbers.length,
): number {
  let low = 0
  let high = length
  while (low < high) {
    const middle = (low + high) >> 1
    if ((numbers[middle] ?? 0) < value) low = middle + 1
    else high = middle
  }
  return low
}
