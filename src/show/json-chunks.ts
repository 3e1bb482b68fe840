/** So deep lists and mappings are printed piece by piece; what is deeper is small. */
const DEPTH = 4

/**
 * The text of `JSON.stringify(value, null, 2)` in pieces, so that a report of hundreds of thousands of
 * rows is never one string.
 */
export function* jsonChunks(value: unknown, indent = '', depth = DEPTH): Generator<string> {
  if (depth === 0 || typeof value !== 'object' || value === null) {
    yield (
      (JSON.stringify(value, null, 2) as string | undefined)?.replaceAll('\n', `\n${indent}`) ??
      'null'
    ) // what JSON has no form for stands as null in a list
    return
  }
  const isList = Array.isArray(value)
  const items: [string, unknown][] = isList
    ? value.map((item: unknown) => ['', item])
    : Object.entries(value)
        .filter(([, item]) => item !== undefined)
        .map(([key, item]) => [`${JSON.stringify(key)}: `, item])
  const [open, close] = isList ? ['[', ']'] : ['{', '}']
  if (items.length === 0) {
    yield open + close
    return
  }
  const inner = `${indent}  `
  let before = `${open}\n${inner}`
  for (const [key, item] of items) {
    yield before + key
    yield* jsonChunks(item, inner, depth - 1)
    before = `,\n${inner}`
  }
  yield `\n${indent}${close}`
}
