import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Model, Story, Style } from './model.ts'
import { commentsOf, edited, edits, models, PLAIN, stories, styles } from './model.ts'
import { expectedOf, readBack } from './oracle.ts'
import type { Renderer } from './render.ts'
import { RUNS } from './runs.ts'
import { renderers } from './render.ts'

/** The config names the identity, so that a document of one entry is told apart like one of many. */
const IDENTITY = new Map([
  ['find', '@id'],
  ['find/find', '@id'],
  ['finds', 'id'],
  ['finds/parts', 'id'],
])

function carry(
  renderer: Renderer,
  texts: [string, string, string],
): CarriedText & { text: string } {
  const options = {
    format: formatNamed(renderer.name),
    path: `salvage/finds.${renderer.name}`,
    identity: IDENTITY,
  }
  const carried = carryText(texts, options)
  if (carried.text === undefined)
    throw new Error(`unread: ${JSON.stringify(carried.problems)}\n${texts.join('\n=====\n')}`)
  return { ...carried, text: carried.text }
}

function rendered(
  renderer: Renderer,
  story: Story,
  mineStyle: Style = PLAIN,
): [string, string, string] {
  return [
    renderer.render(story.old, PLAIN),
    renderer.render(story.fresh, PLAIN),
    renderer.render(story.mine, mineStyle),
  ]
}

/** A conflict's key in the notation of the models. */
function modelKey(key: string): string {
  return key
    .replace(/^finds\[/, '[')
    .replace(/\/parts\[/g, '/[')
    .replace(/(?:find)?\[([^\]]*)\]/g, '$1')
    .replace(/\/@?(worth|weight|depth|bottom|hours)$/, '.$1')
}

const conflictKeys = (carried: CarriedText): string[] =>
  carried.conflicts.map((c) => modelKey(c.key)).sort()

describe.each(renderers)('laws of carry, $name', (renderer) => {
  const { depth } = renderer

  test('1 rest: what one side left alone is the other side, byte for byte', () => {
    fc.assert(
      fc.property(
        models(depth),
        fc.array(edits, { maxLength: 6 }),
        styles,
        (old, changes, style) => {
          const o = renderer.render(old, PLAIN)
          const changed = changes.reduce((model, edit) => edited(model, edit, depth === 0), old)
          const x = renderer.render(changed, style)
          expect(carry(renderer, [o, x, o]).text).toBe(x)
          expect(carry(renderer, [o, o, x]).text).toBe(x)
          expect(carry(renderer, [o, x, x]).text).toBe(x)
        },
      ),
      RUNS,
    )
  })

  test('2 nothing lost: each key has the value that the models call for, and conflicts are those of the models', () => {
    fc.assert(
      fc.property(stories(depth), styles, (story, style) => {
        const carried = carry(renderer, rendered(renderer, story, style))
        const expected = expectedOf(story)
        expect(sorted(readBack(carried.text, renderer).values)).toEqual(sorted(expected.values))
        expect(conflictKeys(carried)).toEqual([...expected.conflicts].sort())
        expectCommentsKept(story, carried)
      }),
      RUNS,
    )
  })

  test('3 nothing invented: every word of the result stands in an input', () => {
    fc.assert(
      fc.property(stories(depth), styles, (story, style) => {
        const texts = rendered(renderer, story, style)
        const known = new Set(words(texts.join('\n')))
        expect(words(carry(renderer, texts).text).filter((word) => !known.has(word))).toEqual([])
      }),
      RUNS,
    )
  })

  test('4 locality: where vanilla changed one value, nothing else of mine changes by a byte', () => {
    const oneSet = fc.record({
      do: fc.constant('set' as const),
      at: fc.nat(30),
      which: fc.nat(9),
      value: fc.constant('4242'),
    })
    fc.assert(
      fc.property(
        models(depth),
        oneSet,
        styles,
        fc.array(edits, { maxLength: 5 }),
        (old, edit, style, mineEdits) => {
          const fresh = edited(old, edit, false)
          const mine = mineEdits.reduce((model, each) => edited(model, each, depth === 0), old)
          const carried = carry(renderer, rendered(renderer, { old, fresh, mine }, style))
          const before = renderer.render(mine, style)
          const differing = differingLines(before, carried.text)
          expect(differing.every((line) => line.includes('4242'))).toBe(true)
          expect(differing.length).toBeLessThanOrEqual(1)
        },
      ),
      RUNS,
    )
  })

  test('5 it loads: the result parses, with nothing that neither vanilla nor mine has', () => {
    fc.assert(
      fc.property(stories(depth), styles, (story, style) => {
        const strict = {
          ...story,
          old: bare(story.old),
          fresh: bare(story.fresh),
          mine: bare(story.mine),
        }
        const { text } = carry(renderer, rendered(renderer, strict, style))
        if (renderer.name === 'json') JSON.parse(text)
        readBack(text, renderer)
      }),
      RUNS,
    )
  })

  test('6 symmetry: with new and mine exchanged the same keys conflict, and all others are equal', () => {
    fc.assert(
      fc.property(stories(depth), (story) => {
        const [o, n, m] = rendered(renderer, story)
        const one = carry(renderer, [o, n, m])
        const other = carry(renderer, [o, m, n])
        expect(conflictKeys(other)).toEqual(conflictKeys(one))
        const open = conflictKeys(one)
        const settled = (text: string): [string, string][] =>
          sorted(readBack(text, renderer).values).filter(
            ([key]) =>
              !open.some((c) => key === c || key.startsWith(`${c}.`) || key.startsWith(`${c}/`)),
          )
        expect(settled(other.text)).toEqual(settled(one.text))
      }),
      RUNS,
    )
  })

  test('7 form is not content: however mine is written, the same conflicts and the same values', () => {
    fc.assert(
      fc.property(stories(depth), styles, (story, style) => {
        const plain = carry(renderer, rendered(renderer, story))
        const other = carry(renderer, rendered(renderer, story, style))
        expect(other.conflicts.map((c) => [c.key, c.id]).sort()).toEqual(
          plain.conflicts.map((c) => [c.key, c.id]).sort(),
        )
        expect(sorted(readBack(other.text, renderer).values)).toEqual(
          sorted(readBack(plain.text, renderer).values),
        )
      }),
      RUNS,
    )
  })

  test('8 place: mine keeps its order, and what vanilla adds follows its predecessor', () => {
    fc.assert(
      fc.property(stories(depth), (story) => {
        const { order } = readBack(carry(renderer, rendered(renderer, story)).text, renderer)
        expectPlaces(story, order)
      }),
      RUNS,
    )
  })

  test('9 stillness: a carry repeated on its own result changes nothing', () => {
    fc.assert(
      fc.property(stories(depth), styles, (story, style) => {
        const [o, n, m] = rendered(renderer, story, style)
        const first = carry(renderer, [o, n, m])
        const second = carry(renderer, [o, n, first.text])
        expect(second.text).toBe(first.text)
        expect(conflictKeys(second)).toEqual(conflictKeys(first))
      }),
      RUNS,
    )
  })
})

function sorted(values: ReadonlyMap<string, string>): [string, string][] {
  return [...values].sort(([a], [b]) => (a < b ? -1 : 1))
}

function words(text: string): string[] {
  return text.match(/[\p{L}\p{N}_]+/gu) ?? []
}

function differingLines(before: string, after: string): string[] {
  const a = before.split('\n')
  const b = after.split('\n')
  if (a.length !== b.length) return [...b, '(another number of lines)']
  return b.filter((line, i) => line !== a[i])
}

/** A model without comments: what strict JSON can hold. */
function bare(model: Model): Model {
  const strip = (entries: Model['entries']): Model['entries'] =>
    entries.map((entry) => ({
      ...entry,
      above: [],
      behind: '',
      free: '',
      parts: strip(entry.parts),
    }))
  return { entries: strip(model.entries), last: '' }
}

/** Each comment that a side wrote is in the result, in a conflict's entry, or quoted in a note. */
function expectCommentsKept(story: Story, carried: CarriedText & { text: string }): void {
  const old = new Set(commentsOf(story.old))
  const told = [
    carried.text,
    ...carried.problems.map((p) => p.message),
    ...carried.conflicts.flatMap((c) => [c.new ?? '', c.mine ?? '']),
  ].join('\n')
  for (const model of [story.fresh, story.mine]) {
    for (const text of commentsOf(model)) {
      if (!old.has(text)) expect(told, `comment ${text}`).toContain(text)
    }
  }
}

/** Law 8 on the entries of the top level. */
function expectPlaces(story: Story, order: readonly string[]): void {
  const ids = (model: Model): string[] => model.entries.map((entry) => entry.id)
  const [old, fresh, mine] = [ids(story.old), ids(story.fresh), ids(story.mine)]
  const common = old.filter((id) => fresh.includes(id) && mine.includes(id))
  const inCommon = (list: string[]): string[] => list.filter((id) => common.includes(id))
  const vanillaMoved = inCommon(fresh).join() !== common.join()
  const mineMoved = inCommon(mine).join() !== common.join()
  if (!vanillaMoved || mineMoved) {
    expect(order.filter((id) => mine.includes(id))).toEqual(mine.filter((id) => order.includes(id)))
  } else expect(order.filter((id) => common.includes(id))).toEqual(inCommon(fresh))
  let predecessor: string | undefined
  for (const id of fresh) {
    if (!order.includes(id)) continue
    const isNew = !mine.includes(id)
    if (isNew)
      expect(
        order[predecessor === undefined ? 0 : order.indexOf(predecessor) + 1],
        story.fresh.entries.map((e) => e.id).join(),
      ).toBe(id)
    predecessor = id
  }
}
