/** What holds more values than this is printed in pieces; a piece holds about as many. */
const PIECE = 1000

/**
 * The text of `JSON.stringify(value, null, 2)` in pieces, so that a report of hundreds of thousands of
 * rows is never one string.
 */
export function* jsonChunks(value: unknown, indent = ''): Generator<string> {
  if (valuesIn(value, PIECE) <= PIECE) yield indented(value, indent)
  else if (Array.isArray(value)) yield* listChunks(value, indent)
  else yield* objectChunks(value as object, indent) // what is no object holds one value
}

function* objectChunks(value: object, indent: string): Generator<string> {
  const inner = `${indent}  `
  let before = `{\n${inner}`
  for (const [key, item] of Object.entries(value)) {
    if (item === undefined) continue
    yield `${before}${JSON.stringify(key)}: `
    yield* jsonChunks(item, inner)
    before = `,\n${inner}`
  }
  yield `\n${indent}}`
}

/** Items that are small are printed several at once. */
function* listChunks(list: readonly unknown[], indent: string): Generator<string> {
  const inner = `${indent}  `
  let before = '[\n'
  for (let at = 0; at < list.length;) {
    const stop = endOfPiece(list, at)
    if (stop > at) yield before + itemLines(list.slice(at, stop), indent)
    else {
      yield before + inner
      yield* jsonChunks(list[at], inner)
    }
    at = Math.max(stop, at + 1)
    before = ',\n'
  }
  yield `\n${indent}]`
}

/** The index after the last item that goes into one piece with the one at `from`; `from` where that is too big. */
function endOfPiece(list: readonly unknown[], from: number): number {
  let room = PIECE
  let at = from
  while (at < list.length) {
    room -= valuesIn(list[at], room)
    if (room < 0) break
    at++
  }
  return at
}

/** How many values a value holds, itself among them; counted to a little over `most`. */
function valuesIn(value: unknown, most: number): number {
  if (typeof value !== 'object' || value === null) return 1
  let count = 1
  for (const item of Object.values(value)) {
    count += valuesIn(item, most - count)
    if (count > most) break
  }
  return count
}

function indented(value: unknown, indent: string): string {
  const text = (JSON.stringify(value, null, 2) as string | undefined) ?? 'null' // as in a list, what JSON has no form for is null
  return indent === '' ? text : text.replaceAll('\n', `\n${indent}`)
}

/** The lines of a list's items, without the brackets around them. */
function itemLines(items: readonly unknown[], indent: string): string {
  return indented(items, indent).slice(2, -(indent.length + 2))
}
