import assert from 'node:assert/strict'
import fc from 'fast-check'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Model, Story, Style } from './model.ts'
import { commentsOf, copied, edited, edits, models, PLAIN, stories, styles } from './model.ts'
import { expectedOf, readBack } from './oracle.ts'
import type { Renderer } from './render.ts'
import { ALL_WAYS, carryInAllWays } from './short-ways.ts'

export type Texts = [old: string, fresh: string, mine: string]

/** One law on generated documents of one format: the texts that a story comes to, and what must hold of them. */
export interface Law {
  name: string
  /** Throws where the law does not hold. */
  property: fc.IProperty<[Story, Style]>
  texts: (story: Story, style: Style) => Texts
}

/** The config names the identity, so that a document of one entry is told apart like one of many. */
export const IDENTITY = new Map([
  ['find', '@id'],
  ['find/find', '@id'],
  ['finds', 'id'],
  ['finds/parts', 'id'],
])

type Carried = CarriedText & { text: string }

/** What a law looks at: the story, its texts, and the carry of any three texts. */
interface Trial {
  story: Story
  style: Style
  texts: Texts
  carry: (texts: Texts) => Carried
}

function carry(renderer: Renderer, texts: Texts): Carried {
  const options = {
    format: formatNamed(renderer.name),
    path: `salvage/finds.${renderer.name}`,
    identity: IDENTITY,
  }
  // which of the ways the program itself takes matters in larger documents: short-ways.test.ts
  const carried = carryInAllWays(texts, options, [ALL_WAYS])
  if (carried.text === undefined)
    throw new Error(`unread: ${JSON.stringify(carried.problems)}\n${texts.join('\n=====\n')}`)
  return { ...carried, text: carried.text }
}

interface LawSpec {
  name: string
  stories: fc.Arbitrary<Story>
  styles?: fc.Arbitrary<Style>
  /** What the story is made before it is written down. */
  made?: (story: Story) => Story
  check: (trial: Trial) => void
}

function law(renderer: Renderer, spec: LawSpec): Law {
  const made = spec.made ?? ((story: Story): Story => story)
  const texts = (told: Story, style: Style): Texts => {
    const story = made(told)
    return [
      renderer.render(story.old, PLAIN),
      renderer.render(story.fresh, PLAIN),
      renderer.render(story.mine, style),
    ]
  }
  const property = fc.property(spec.stories, spec.styles ?? styles, (story, style) => {
    spec.check({
      story: made(story),
      style,
      texts: texts(story, style),
      carry: (three) => carry(renderer, three),
    })
  })
  return { name: spec.name, property, texts }
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

/** Stories in which vanilla alone changed something, or nobody did. */
function oneSided(depth: number): fc.Arbitrary<Story> {
  return fc.tuple(models(depth), fc.array(edits, { maxLength: 6 })).map(([old, changes]) => {
    const changed = changes.reduce((model, edit) => edited(model, edit, depth === 0), old)
    return { old, fresh: old, mine: changed }
  })
}

function rest(depth: number): LawSpec {
  return {
    name: '1 rest: what one side left alone is the other side, byte for byte',
    stories: oneSided(depth),
    check({ texts: [o, , x], carry }) {
      assert.equal(carry([o, x, o]).text, x)
      assert.equal(carry([o, o, x]).text, x)
      assert.equal(carry([o, x, x]).text, x)
    },
  }
}

/** Vanilla sets one value to 4242; mine is edited as may be. */
function oneValueSet(depth: number): fc.Arbitrary<Story> {
  const oneSet = fc.record({
    do: fc.constant('set' as const),
    at: fc.nat(30),
    which: fc.nat(9),
    value: fc.constant('4242'),
  })
  return fc
    .tuple(models(depth), oneSet, fc.array(edits, { maxLength: 5 }))
    .map(([old, edit, mineEdits]) => ({
      old,
      fresh: edited(old, edit, false),
      mine: mineEdits.reduce((model, each) => edited(model, each, depth === 0), old),
    }))
}

/** The laws of carry on documents whose entries have an identity. */
export function lawsOf(renderer: Renderer): Law[] {
  const { depth } = renderer
  const specs: LawSpec[] = [
    rest(depth),
    {
      name: '2 nothing lost: each key has the value that the models call for, and conflicts are those of the models',
      stories: stories(depth),
      check({ story, texts, carry }) {
        const carried = carry(texts)
        const expected = expectedOf(story)
        assert.deepEqual(sorted(readBack(carried.text, renderer).values), sorted(expected.values))
        assert.deepEqual(conflictKeys(carried), [...expected.conflicts].sort())
        expectCommentsKept(story, carried)
      },
    },
    {
      name: '3 nothing invented: every word of the result stands in an input',
      stories: stories(depth),
      check({ texts, carry }) {
        const known = new Set(words(texts.join('\n')))
        assert.deepEqual(
          words(carry(texts).text).filter((word) => !known.has(word)),
          [],
        )
      },
    },
    {
      name: '4 locality: where vanilla changed one value, nothing else of mine changes by a byte',
      stories: oneValueSet(depth),
      check({ texts, carry }) {
        const differing = differingLines(texts[2], carry(texts).text)
        assert.ok(differing.every((line) => line.includes('4242')))
        assert.ok(differing.length <= 1)
      },
    },
    {
      name: '5 it loads: the result parses, with nothing that neither vanilla nor mine has',
      stories: stories(depth),
      made: withoutComments,
      check({ texts, carry }) {
        const { text } = carry(texts)
        if (renderer.name === 'json') JSON.parse(text)
        readBack(text, renderer)
      },
    },
    symmetry(renderer),
    {
      name: '7 form is not content: however mine is written, the same conflicts and the same values',
      stories: stories(depth),
      check({ story, texts, carry }) {
        const plain = carry([texts[0], texts[1], renderer.render(story.mine, PLAIN)])
        const other = carry(texts)
        const open = (carried: Carried): string[] =>
          carried.conflicts.map((c) => `${c.key} ${c.id}`).sort()
        assert.deepEqual(open(other), open(plain))
        assert.deepEqual(
          sorted(readBack(other.text, renderer).values),
          sorted(readBack(plain.text, renderer).values),
        )
      },
    },
    {
      name: '8 place: mine keeps its order, and what vanilla adds follows its predecessor',
      stories: stories(depth),
      styles: fc.constant(PLAIN),
      check({ story, texts, carry }) {
        expectPlaces(story, readBack(carry(texts).text, renderer).order)
      },
    },
    {
      name: '9 stillness: a carry repeated on its own result changes nothing',
      stories: stories(depth),
      check({ texts: [o, n, m], carry }) {
        const first = carry([o, n, m])
        const second = carry([o, n, first.text])
        assert.equal(second.text, first.text)
        assert.deepEqual(conflictKeys(second), conflictKeys(first))
      },
    },
  ]
  return specs.map((spec) => law(renderer, spec))
}

function symmetry(renderer: Renderer): LawSpec {
  return {
    name: '6 symmetry: with new and mine exchanged the same keys conflict, and all others are equal',
    stories: stories(renderer.depth),
    styles: fc.constant(PLAIN),
    check({ texts: [o, n, m], carry }) {
      const one = carry([o, n, m])
      const other = carry([o, m, n])
      const open = conflictKeys(one)
      assert.deepEqual(conflictKeys(other), open)
      const isOpen = (key: string): boolean =>
        open.some((c) => key === c || key.startsWith(`${c}.`) || key.startsWith(`${c}/`))
      const settled = (text: string): [string, string][] =>
        sorted(readBack(text, renderer).values).filter(([key]) => !isOpen(key))
      assert.deepEqual(settled(other.text), settled(one.text))
    },
  }
}

/**
 * The laws on documents where nothing tells entries apart for sure: which entry is which is a matter of
 * judgement; but whatever is judged, nothing may be lost, invented, or changed by a repetition.
 */
export function lawsOfJudgement(renderer: Renderer): Law[] {
  const { depth } = renderer
  const specs: LawSpec[] = [
    rest(depth),
    {
      name: '2, 3, 5: nothing lost, nothing invented, and it loads',
      stories: stories(depth),
      made: markedStory,
      check({ texts, carry }) {
        const carried = carry(texts)
        readBack(carried.text, renderer)
        const told =
          carried.text + carried.conflicts.map((c) => `${c.new ?? ''} ${c.mine ?? ''}`).join(' ')
        for (const mark of [...marks(texts[1]), ...marks(texts[2])])
          assert.ok(told.includes(mark), `${mark} is lost`)
        const known = new Set(words(texts.join('\n')))
        assert.deepEqual(
          words(carried.text).filter((word) => !known.has(word)),
          [],
        )
      },
    },
    {
      name: '9 stillness',
      stories: stories(depth, true),
      made: withoutComments,
      check({ texts: [o, n, m], carry }) {
        const first = carry([o, n, m])
        assert.equal(carry([o, n, first.text]).text, first.text)
      },
    },
  ]
  return specs.map((spec) => law(renderer, spec))
}

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
      if (!old.has(text)) assert.ok(told.includes(text), `the comment is lost: ${text}`)
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
    const ofMine = order.filter((id) => mine.includes(id))
    assert.deepEqual(
      ofMine,
      mine.filter((id) => order.includes(id)),
    )
  } else
    assert.deepEqual(
      order.filter((id) => common.includes(id)),
      inCommon(fresh),
    )
  let predecessor: string | undefined
  let isReplaced = false
  for (const id of fresh) {
    if (!order.includes(id)) {
      isReplaced = true
      continue
    }
    if (!mine.includes(id)) {
      let at = predecessor === undefined ? 0 : order.indexOf(predecessor) + 1
      // what mine put in the place of the predecessor that it lost stands before
      while (isReplaced && at < order.length && !fresh.includes(order[at] ?? '')) at++
      assert.equal(order[at], id)
    }
    predecessor = id
    isReplaced = false
  }
}

/** The story with a word of its own in each value that a side has written, so that a loss is seen. */
function markedStory(story: Story): Story {
  const mark = (model: Model, side: string): Model => {
    const copy = { ...model, entries: copied(model.entries) }
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
  return { old: bare(story.old), fresh: bare(story.fresh), mine: bare(story.mine) }
}

const marks = (text: string): string[] => text.match(/(?:vanilla|mine)\d+x\d+/g) ?? []
