import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Model, Story, Style } from './model.ts'
import { edited, edits, models, PLAIN, stories, styles } from './model.ts'
import { readBack } from './oracle.ts'
import type { Renderer } from './render.ts'
import { RUNS } from './runs.ts'
import { sharedIdentity, withoutIdentity } from './render.ts'

/** Said, and not inferred: what is inferred from so few entries may be another thing in a repetition. */
const IDENTITY = new Map([
  ['find', '@id'],
  ['find/find', '@id'],
  ['finds', 'id'],
  ['finds/parts', 'id'],
])

/*
 * Where nothing tells entries apart for sure, which entry is which is a matter of judgement; but
 * whatever is judged, nothing may be lost, invented, or changed by a repetition.
 */
const sorts = [
  ...withoutIdentity.map((renderer) => ({ sort: 'no identity', name: renderer.name, renderer })),
  ...sharedIdentity.map((renderer) => ({
    sort: 'shared identities',
    name: renderer.name,
    renderer,
  })),
]

describe.each(sorts)('laws of carry, $name with $sort', ({ renderer }) => {
  const { depth } = renderer

  test('rest', () => {
    fc.assert(
      fc.property(
        models(depth),
        fc.array(edits, { maxLength: 6 }),
        styles,
        (old, changes, style) => {
          const o = renderer.render(old, PLAIN)
          const x = renderer.render(
            changes.reduce((model, edit) => edited(model, edit, depth === 0), old),
            style,
          )
          expect(carry(renderer, [o, x, o]).text).toBe(x)
          expect(carry(renderer, [o, o, x]).text).toBe(x)
          expect(carry(renderer, [o, x, x]).text).toBe(x)
        },
      ),
      RUNS,
    )
  })

  test('nothing lost, nothing invented, and it loads', () => {
    fc.assert(
      fc.property(stories(depth), styles, (story, style) => {
        const marked = markedStory(story)
        const texts = rendered(renderer, marked, style)
        const carried = carry(renderer, texts)
        readBack(carried.text, renderer)
        const told =
          carried.text + carried.conflicts.map((c) => `${c.new ?? ''} ${c.mine ?? ''}`).join(' ')
        for (const mark of [...marks(texts[1]), ...marks(texts[2])]) expect(told).toContain(mark)
        const known = new Set(words(texts.join('\n')))
        expect(words(carried.text).filter((word) => !known.has(word))).toEqual([])
      }),
      RUNS,
    )
  })

  test('stillness', () => {
    fc.assert(
      fc.property(stories(depth, true), styles, (story, style) => {
        const [o, n, m] = rendered(renderer, withoutComments(story), style)
        const first = carry(renderer, [o, n, m])
        expect(carry(renderer, [o, n, first.text]).text).toBe(first.text)
      }),
      RUNS,
    )
  })
})

function carry(
  renderer: Renderer,
  texts: [string, string, string],
): CarriedText & { text: string } {
  const carried = carryText(texts, {
    format: formatNamed(renderer.name),
    path: 'finds',
    identity: IDENTITY,
  })
  if (carried.text === undefined)
    throw new Error(`unread: ${JSON.stringify(carried.problems)}\n${texts.join('\n=====\n')}`)
  return { ...carried, text: carried.text }
}

function rendered(renderer: Renderer, story: Story, style: Style): [string, string, string] {
  return [
    renderer.render(story.old, PLAIN),
    renderer.render(story.fresh, PLAIN),
    renderer.render(story.mine, style),
  ]
}

/** The story with a word of its own in each value that a side has written, so that a loss is seen. */
function markedStory(story: Story): Story {
  const mark = (model: Model, side: string): Model => {
    const copy = structuredClone(model)
    copy.entries.forEach((entry, i) => {
      const before = story.old.entries.find((old) => old.id === entry.id)
      entry.values.forEach((pair, j) => {
        const was = before?.values.find(([name]) => name === pair[0])?.[1]
        if (pair[1] !== was) pair[1] = `${side}${i}x${j}`
      })
    })
    return copy
  }
  return { old: story.old, fresh: mark(story.fresh, 'vanilla'), mine: mark(story.mine, 'mine') }
}

/** Comments have nothing that tells them apart either; the other laws are held with them. */
function withoutComments(story: Story): Story {
  const strip = (entries: Model['entries']): Model['entries'] =>
    entries.map((entry) => ({
      ...entry,
      above: [],
      behind: '',
      free: '',
      parts: strip(entry.parts),
    }))
  const bare = (model: Model): Model => ({ entries: strip(model.entries), last: '' })
  return { old: bare(story.old), fresh: bare(story.fresh), mine: bare(story.mine) }
}

const marks = (text: string): string[] => text.match(/(?:vanilla|mine)\d+x\d+/g) ?? []
const words = (text: string): string[] => text.match(/[\p{L}\p{N}_]+/gu) ?? []
