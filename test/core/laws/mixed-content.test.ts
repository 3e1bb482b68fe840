import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// An element that may hold a text, an element, or both beside each other: all there are of few values. A text beside
// elements is content like any other, and two of them side by side would be nobody's.

interface Content {
  text: string
  depth: string
}
type State = Content | undefined

const STATES: readonly State[] = [
  undefined,
  ...['', 'reef', 'wreck'].flatMap((text) => ['', '4', '9'].map((depth) => ({ text, depth }))),
]

function written(state: State): string {
  if (state === undefined) return '<finds>\n  <lamp/>\n</finds>\n'
  const { text, depth } = state
  const inside = text + (depth === '' ? '' : `<depth>${depth}</depth>`)
  return `<finds>\n  <lamp/>\n  <find>${inside}</find>\n</finds>\n`
}

function readBack(text: string): State {
  const found = /<find(?:\/>|>([^<]*)(?:<depth>(\d)<\/depth>)?<\/find>)/.exec(text)
  return found === null ? undefined : { text: found[1] ?? '', depth: found[2] ?? '' }
}

/** What comes of three values; undefined where it has to be asked. */
function merged<T>(old: T, fresh: T, mine: T): { is: T } | undefined {
  const same = (a: T, b: T): boolean => JSON.stringify(a) === JSON.stringify(b)
  if (same(fresh, mine) || same(old, fresh)) return { is: mine }
  return same(old, mine) ? { is: fresh } : undefined
}

function wanted(old: State, fresh: State, mine: State): { is: State } | undefined {
  const whole = merged(old, fresh, mine)
  if (whole !== undefined) return whole
  if (fresh === undefined || mine === undefined)
    return old === undefined ? { is: fresh ?? mine } : undefined
  const of = (part: keyof Content) => merged(old?.[part] ?? '', fresh[part], mine[part])
  const [text, depth] = [of('text'), of('depth')]
  return text === undefined || depth === undefined
    ? undefined
    : { is: { text: text.is, depth: depth.is } }
}

test('a text beside elements is merged like any value, is asked, and is never put together', () => {
  const options = { format: formatNamed('xml'), path: 'finds.xml' }
  const isAsked = (texts: readonly [string, string, string]): boolean =>
    carryText(texts, options).conflicts.length > 0
  for (const old of STATES)
    for (const fresh of STATES)
      for (const mine of STATES) {
        const [a, b, c] = [written(old), written(fresh), written(mine)]
        const { text, conflicts } = carryText([a, b, c], options)
        const result = text ?? ''
        const want = wanted(old, fresh, mine)
        const told = JSON.stringify([old, fresh, mine])
        if (want === undefined) expect(conflicts, told).not.toEqual([])
        if (conflicts.length === 0) expect(readBack(result), told).toEqual(want?.is)
        // a text here and an element there is asked as a whole, though one of them came alone
        if (merged(old, fresh, mine) !== undefined) expect(conflicts, told).toEqual([])
        expect(isAsked([a, c, b]), told).toBe(conflicts.length > 0)
        expect(carryText([a, b, result], options).text, told).toBe(result)
      }
})
