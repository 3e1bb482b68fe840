import fc from 'fast-check'
import { expect, test, vi } from 'vitest'
import type { CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { Tree } from '../../../src/core/document/tree.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { editedText, textEdits } from '../../soak/documents.ts'
import type { Texts } from './laws.ts'
import type { Entry, Model } from './model.ts'
import { PLAIN, stories } from './model.ts'
import { renderers, sharedIdentity } from './render.ts'
import { RUNS } from './runs.ts'

const LONG = 'as heavy as the anchor of a ship of the line, '.repeat(3)

/** Entries that nobody touches, some of them with comments. */
function untouched(name: string, count: number): Entry[] {
  return Array.from({ length: count }, (_, i) => ({
    id: `${name}${i}`,
    values: [
      ['worth', `${i}`],
      ['weight', LONG],
      ['depth', `${(i * 7) % 50}`],
    ],
    above: i % 9 === 4 ? [`above ${i}`] : [],
    behind: i % 13 === 5 ? `behind ${i}` : '',
    free: i % 17 === 3 ? `apart ${i}` : '',
    gap: i % 5 === 0,
    parts: [],
  }))
}

/** A model in a document long enough for entries to be left out of its merge, with a few such behind each of its own. */
const amongMany = (model: Model): Model => ({
  ...model,
  entries: [
    ...untouched('first', 320),
    ...model.entries.flatMap((entry) => [entry, ...untouched(`${entry.id}-`, 5)]),
    ...untouched('last', 10),
  ],
})

/** Without its comments: JSON with comments is read as it is, not after another document. */
const silent = (model: Model): Model => ({
  entries: model.entries.map(silentEntry),
  last: '',
})
const silentEntry = (entry: Entry): Entry => ({
  ...entry,
  above: [],
  behind: '',
  free: '',
  parts: entry.parts.map(silentEntry),
})

/** The same carry with all entries in the merge: an order that matters, though nowhere here, keeps them in it. */
function expectTheSame(texts: Texts, options: CarryOptions): void {
  const all = carryText(texts, { ...options, ordered: new Set(['nowhere']) })
  const some = carryText(texts, options)
  expect(some).toEqual(all)
  expect([...some.identities]).toEqual([...all.identities])
}

/** A document that holds two others, the second a step deeper than the first. */
function holding(name: 'xml' | 'json', [first, second]: readonly [string, string]): string {
  if (name === 'json') return `{ "first": ${first},\n"deep": { "second": ${second} } }\n`
  const inside = (text: string): string => text.replace(/^.*<finds[^>]*>|<\/finds>\s*$/gs, '')
  return `<all><first>${inside(first)}</first>\n<deep><second>${inside(second)}</second></deep></all>\n`
}

const FEW = { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 5) }

test.each([...renderers, ...sharedIdentity].filter(({ name }) => name !== 'ini'))(
  'a carry tells and writes the same when untouched entries are left out of it ($name, %#)',
  (renderer) => {
    const leavesOut = vi.spyOn(Tree.prototype, 'without')
    const { name, depth, render } = renderer
    fc.assert(
      fc.property(stories(depth), fc.nat(5), ({ old, fresh, mine }, which) => {
        const written = (model: Model): string => {
          const all = amongMany(model)
          return render(name === 'json' ? silent(all) : all, PLAIN)
        }
        const texts: Texts = [written(old), written(fresh), written(mine)]
        if (which === 0) texts[1] = texts[0]
        if (which === 1) texts[2] = texts[0]
        expectTheSame(texts, { format: formatNamed(name), path: `finds.${name}` })
      }),
      FEW,
    )
    expect(leavesOut).toHaveBeenCalled()
    leavesOut.mockRestore()
  },
)

test.each(['xml', 'json'] as const)('two big containers in one document (%s)', (name) => {
  const leavesOut = vi.spyOn(Tree.prototype, 'without')
  const renderer = renderers.find((each) => each.name === name)
  const written = (model: Model): string => renderer?.render(silent(amongMany(model)), PLAIN) ?? ''
  fc.assert(
    fc.property(stories(1), stories(1), fc.nat(3), (one, other, which) => {
      const sides = ['old', 'fresh', 'mine'] as const
      const [old = '', fresh = '', mine = ''] = sides.map((side, i) =>
        holding(name, [written(which === i ? one.old : one[side]), written(other[side])]),
      )
      expectTheSame([old, fresh, mine], { format: formatNamed(name), path: `finds.${name}` })
    }),
    { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 10) },
  )
  expect(leavesOut).toHaveBeenCalled()
  leavesOut.mockRestore()
})

/** A release of which every seventeenth entry is worth more than in another. */
function releaseOf(name: 'xml' | 'json', more: number): string {
  const entries = untouched('find', 300).map((entry, i) =>
    i % 17 === 0
      ? { ...entry, values: [['worth', `${i + more}`], ...entry.values.slice(1)] }
      : entry,
  ) as Entry[]
  const renderer = renderers.find((each) => each.name === name)
  return renderer?.render(silent({ entries, last: '' }), PLAIN) ?? ''
}

test.each(['xml', 'json'] as const)(
  'edits of lines come to the same when untouched entries are left out (%s)',
  (name) => {
    const leavesOut = vi.spyOn(Tree.prototype, 'without')
    const [old, fresh] = [releaseOf(name, 0), releaseOf(name, 7)]
    fc.assert(
      fc.property(textEdits, textEdits, fc.boolean(), (byVanilla, byMine, isNew) => {
        const texts: Texts = [
          old,
          editedText(isNew ? fresh : old, byVanilla, name, 'vanilla'),
          editedText(old, byMine, name, 'harbour'),
        ]
        expectTheSame(texts, { format: formatNamed(name), path: `finds.${name}` })
      }),
      FEW,
    )
    expect(leavesOut).toHaveBeenCalled()
    leavesOut.mockRestore()
  },
)
