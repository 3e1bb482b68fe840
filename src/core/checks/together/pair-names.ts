/** Words of names of which the first of two says the lower end, and the second the upper. */
const ENDS: readonly (readonly [low: string, high: string])[] = [
  ['least', 'most'],
  ['min', 'max'],
  ['minimum', 'maximum'],
  ['minimal', 'maximal'],
  ['low', 'high'],
  ['lower', 'upper'],
  ['lowest', 'highest'],
  ['from', 'to'],
  ['start', 'end'],
  ['begin', 'end'],
  ['first', 'last'],
  ['near', 'far'],
  ['smallest', 'largest'],
  ['smallest', 'biggest'],
  ['shortest', 'longest'],
  ['slowest', 'fastest'],
  ['earliest', 'latest'],
  ['floor', 'ceiling'],
  ['shallow', 'deep'],
  ['shallowest', 'deepest'],
  ['fewest', 'most'],
]

/** Whether two names differ in one word alone, which says of the first that it is the lower end of a range. */
export function isRange(low: string, high: string): boolean {
  const [a, b] = [wordsOf(low), wordsOf(high)]
  if (a.length !== b.length) return isBounded(a, b)
  const at = a.findIndex((word, i) => word !== b[i])
  const isRest = a.every((word, i) => i === at || word === b[i])
  return isRest && ENDS.some(([from, to]) => a[at] === from && b[at] === to)
}

/** `depth` is bounded by `max_depth`, and bounds `min_depth`. */
function isBounded(a: readonly string[], b: readonly string[]): boolean {
  const isMore = (more: readonly string[], less: readonly string[], words: string[]): boolean =>
    more.length === less.length + 1 &&
    more.some(
      (word, at) => words.includes(word) && less.join(' ') === more.toSpliced(at, 1).join(' '),
    )
  return isMore(b, a, ['max', 'maximum']) || isMore(a, b, ['min', 'minimum'])
}

/** The words and numbers of a name: `maxDepth2`, `max_depth_2` and `max-depth-2` have the same three. */
function wordsOf(name: string): string[] {
  return name
    .replace(/^[@"]+|"$/g, '')
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/([A-Za-z])([0-9])|([0-9])([A-Za-z])/g, '$1$3 $2$4')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '')
}

const END_WORDS = new Set(ENDS.flat())

/**
 * What names that may be the ends of a range have in common: the name, and the name without each word that says which end it is.
 * Two names that have nothing of this in common are no range.
 */
export function rangeStems(name: string): string[] {
  const words = wordsOf(name)
  const without = words.flatMap((word, at) =>
    END_WORDS.has(word) ? [words.toSpliced(at, 1).join(' ')] : [],
  )
  return [words.join(' '), ...without]
}
