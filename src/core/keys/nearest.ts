/** The known name that a mistyped one most likely means; undefined where none is near. */
export function nearest(given: string, known: readonly string[]): string | undefined {
  const begun = known.filter((name) => name.startsWith(given))
  if (given.length >= SHORT && begun.length === 1) return begun[0]
  let best: string | undefined
  const most = Math.max(given.length <= SHORT ? 1 : 2, Math.floor(given.length / 3))
  // of a word of which each letter is another one nothing is left
  let least = Math.min(most, given.length - 1) + 1
  for (const name of known) {
    const distance = editDistance(given.toLowerCase(), name.toLowerCase())
    if (distance < least) {
      least = distance
      best = name
    }
  }
  return best
}

/** In a word of so many letters two that are wrong leave nothing of it. */
const SHORT = 3

/** Single-character edits between two words (Levenshtein 1966), two rows at a time. */
function editDistance(a: string, b: string): number {
  let previous = Array.from({ length: b.length + 1 }, (_, i) => i)
  for (let i = 1; i <= a.length; i++) {
    const row = [i]
    for (let j = 1; j <= b.length; j++) {
      const change = (previous[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1)
      row[j] = Math.min(change, (previous[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1)
    }
    previous = row
  }
  return previous[b.length] ?? 0
}
