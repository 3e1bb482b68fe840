/** For each index whether it is part of one longest increasing subsequence, 1 or 0 (patience sorting, n log n). */
export function longestIncreasing(values: readonly number[]): Uint8Array {
  const tails = new Int32Array(values.length)
  const previous = new Int32Array(values.length)
  let length = 0
  for (let i = 0; i < values.length; i++) {
    const value = values[i] ?? 0
    // most sequences are nearly in order: what comes next mostly is the greatest so far
    let low = length > 0 && (values[tails[length - 1] ?? 0] ?? 0) < value ? length : 0
    let high = length
    while (low < high) {
      const middle = (low + high) >> 1
      if ((values[tails[middle] ?? 0] ?? 0) < value) low = middle + 1
      else high = middle
    }
    previous[i] = low > 0 ? (tails[low - 1] ?? -1) : -1
    tails[low] = i
    if (low === length) length++
  }
  const stays = new Uint8Array(values.length)
  const last = length > 0 ? (tails[length - 1] ?? -1) : -1
  for (let i = last; i >= 0; i = previous[i] ?? -1) stays[i] = 1
  return stays
}
