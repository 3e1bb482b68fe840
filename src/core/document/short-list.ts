/** So many names stand in a sentence. */
const MOST_NAMED = 3

/** `a, b, c and 4 more`. */
export function shortList(names: readonly string[]): string {
  const shown = names.slice(0, MOST_NAMED)
  const rest = names.length - shown.length
  if (rest > 0) return `${shown.join(', ')} and ${rest} more`
  return shown.length < 2
    ? shown.join('')
    : `${shown.slice(0, -1).join(', ')} and ${shown.at(-1) ?? ''}`
}
