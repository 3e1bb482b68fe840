import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// An element that may hold a text, or an element with a text before and behind it: all there are of few values. Such a
// text is content like any other, and two of them side by side would be nobody's.

interface Content {
  before: string
  depth: string
  behind: string
}
type State = Content | undefined

const TEXTS = ['', 'reef', 'wreck']
const STATES: readonly State[] = [
  undefined,
  ...TEXTS.map((before) => ({ before, depth: '', behind: '' })),
  ...TEXTS.flatMap((before) => TEXTS.map((behind) => ({ before, depth: '4', behind }))),
]

function written(state: State): string {
  if (state === undefined) return '<finds>\n  <lamp/>\n</finds>\n'
  const { before, depth, behind } = state
  const inside = before + (depth === '' ? '' : `<depth>${depth}</depth>`) + behind
  return `<finds>\n  <lamp/>\n  <find>${inside}</find>\n</finds>\n`
}

function readBack(text: string): State {
  const found = /<find(?:\/>|>([^<]*)(?:<depth>(\d)<\/depth>([^<]*))?<\/find>)/.exec(text)
  if (found === null) return undefined
  const [, before = '', depth = '', behind = ''] = found
  return { before, depth, behind }
}

/** Its texts, wherever they stand. */
const words = (state: State): string => `${state?.before ?? ''} ${state?.behind ?? ''}`.trim()

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
  const [before, depth, behind] = [of('before'), of('depth'), of('behind')]
  if (before === undefined || depth === undefined || behind === undefined) return undefined
  return { is: { before: before.is, depth: depth.is, behind: behind.is } }
}

/** All that is said in an element without others, where comments stand in it. */
const said = (text: string): string => text.replace(/<!--.*?-->|<[^>]*>|\s/g, '')

test('a text that comments cut into pieces is one value', () => {
  const options = { format: formatNamed('xml'), path: 'finds.xml' }
  const pieces = ['', '<!--deep-->'].flatMap((comment) =>
    TEXTS.flatMap((before) => ['', 'tide'].map((behind) => `${before}${comment}${behind}`)),
  )
  const texts = pieces.map((inside) => `<finds>\n  <find>${inside}</find>\n</finds>\n`)
  for (const old of texts)
    for (const fresh of texts)
      for (const mine of texts) {
        const { text, conflicts } = carryText([old, fresh, mine], options)
        const result = text ?? ''
        const want = merged(said(old), said(fresh), said(mine))
        const told = JSON.stringify([old, fresh, mine])
        if (conflicts.length === 0) expect(said(result), told).toEqual(want?.is)
        else expect(want, told).toBeUndefined()
        expect(carryText([old, fresh, result], options).text, told).toBe(result)
      }
})

test('texts around an element are merged like any value or asked, and never put together', () => {
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
        if (conflicts.length === 0 && words(old) === words(fresh) && words(old) === words(mine))
          // it is the same text wherever it stands, and one side says where
          expect(words(readBack(result)), told).toBe(words(old))
        else if (conflicts.length === 0) expect(readBack(result), told).toEqual(want?.is)
        if (merged(old, fresh, mine) !== undefined) expect(conflicts, told).toEqual([])
        expect(isAsked([a, c, b]), told).toBe(conflicts.length > 0)
        expect(carryText([a, b, result], options).text, told).toBe(result)
      }
})

test('an element that comes or goes beside texts takes its line with it, and that of no other', () => {
  const options = { format: formatNamed('xml'), path: 'note.xml' }
  const note = (size: number, ...elements: string[]): string =>
    `<note>\nSink at <bell/>\n<lamp size="${size}"/>${elements.join('')}\nthen <haul/> it\n</note>\n`
  for (const [old, now] of [
    [[], ['\n<rope/>']],
    [[], ['\n<rope/>', '<net/>']],
    [['\n<rope/>'], []],
    [['<rope/>'], []],
  ] as const) {
    const [a, b, c] = [note(1, ...old), note(1, ...now), note(2, ...old)]
    for (const three of [[a, b, c] as const, [a, c, b] as const]) {
      const { text, conflicts } = carryText(three, options)
      expect([conflicts, text]).toEqual([[], note(2, ...now)])
      expect(carryText([three[0], three[1], text ?? ''], options).text).toBe(text)
    }
  }
})
