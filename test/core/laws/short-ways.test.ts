import fc from 'fast-check'
import { describe, expect, test, vi } from 'vitest'
import type { CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { OneSided } from '../../../src/core/plan/one-sided.ts'
import { UntouchedRuns } from '../../../src/core/plan/same/untouched-runs.ts'
import { Kind } from '../../../src/core/document/kind.ts'
import { Tree } from '../../../src/core/document/tree.ts'
import { readDoc } from '../../../src/core/formats/doc.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Texts } from './laws.ts'
import { list, longLists } from './long-lists.ts'
import type { Entry, Model, Story } from './model.ts'
import { PLAIN } from './model.ts'
import type { Renderer } from './render.ts'
import { renderers } from './render.ts'
import { richStories } from './rich.ts'
import { RUNS } from './runs.ts'
import { ALL_WAYS, carryInAllWays, NO_WAYS } from './short-ways.ts'
import { editedText, textEdits } from './text-edits.ts'

const optionsOf = ({ name }: Pick<Renderer, 'name'>) => ({
  format: formatNamed(name),
  path: `salvage/finds.${name}`,
})

/** Strict JSON alone is read after another document. */
const silent = (entries: readonly Entry[]): Entry[] =>
  entries.map((each) => ({
    ...each,
    above: [],
    behind: '',
    free: '',
    parts: silent(each.parts),
  }))

function written(renderer: Renderer, { old, fresh, mine }: Story, isSilent = false): Texts {
  const bare = (model: Model): Model => ({ entries: silent(model.entries), last: '' })
  const text = (model: Model, indent: string): string =>
    renderer.render(isSilent ? bare(model) : model, { ...PLAIN, indent })
  return [text(old, '  '), text(fresh, '  '), text(mine, isSilent ? '  ' : '    ')]
}

/** What tells that a short way was really taken. */
const watched = () => ({
  copied: vi.spyOn(Tree.prototype, 'copy'),
  runs: vi.spyOn(UntouchedRuns.prototype, 'of'),
  walks: vi.spyOn(OneSided.prototype, 'walk'),
})

/** What a config may ask of such lists. */
const CONFIGS: Partial<CarryOptions>[] = [
  {},
  {},
  { ordered: new Set(['find', 'finds']) },
  {
    together: [
      ['find/worth', 'find/note'],
      ['finds/worth', 'finds/note'],
    ],
  },
  { everyDifference: true },
  {
    identity: new Map([
      ['find', '@id'],
      ['finds', 'id'],
    ]),
  },
]

describe.each(renderers)('short ways change nothing ($name)', (renderer) => {
  test('of documents as games ship them', () => {
    const ways = watched()
    fc.assert(
      fc.property(richStories(renderer.depth === 0), fc.boolean(), (story, isSilent) => {
        carryInAllWays(written(renderer, story, isSilent), optionsOf(renderer))
      }),
      RUNS,
    )
    // what has no entries in entries is read as it comes, and has no lists of them
    const isListed = renderer.depth > 0
    expect(ways.copied.mock.calls.length > 0).toBe(isListed)
    expect(ways.runs.mock.results.some(({ value }) => value !== undefined)).toBe(isListed)
    expect(ways.walks.mock.results.some(({ value }) => value === true)).toBe(true)
    vi.restoreAllMocks()
  })

  test('of long lists that were edited here and there', () => {
    fc.assert(
      fc.property(longLists, fc.boolean(), fc.nat(60), (story, isSilent, from) => {
        const texts = written(renderer, story, isSilent)
        // how the first entries are laid out says how what is added is fitted
        let entry = 0
        texts[2] = texts[2].replace(/^ {2}(?=<find|\{)/gm, (blanks) =>
          entry++ >= from && entry < from + 24 ? `    ${blanks}` : blanks,
        )
        carryInAllWays(texts, { ...optionsOf(renderer), ...CONFIGS[from % CONFIGS.length] })
      }),
      RUNS,
    )
  })

  test('of two lists at one place, and of entries of two names in one list', () => {
    if (renderer.name !== 'xml') return
    fc.assert(
      fc.property(longLists, fc.boolean(), (story, isMixed) => {
        const both = (text: string): string =>
          isMixed
            ? text.replace(/<find( id="f2[0-9]"[^]*?)<\/find>/g, '<buoy$1</buoy>')
            : `<all>${text.replace(/( *<find id="f22"[^]*?<\/find>\n)/, '$1$1')}<finds><find id="alone"><worth>1</worth></find></finds></all>`
        const [old, fresh, mine] = written(renderer, story, true)
        carryInAllWays([both(old), both(fresh), both(mine)], optionsOf(renderer))
      }),
      RUNS,
    )
  })

  test('of long lists whose lines were edited', () => {
    const old = renderer.render({ entries: list(120), last: '' }, PLAIN)
    fc.assert(
      fc.property(textEdits, textEdits, (byVanilla, byMine) => {
        const texts: Texts = [
          old,
          editedText(old, byVanilla, renderer.name, 'vanilla'),
          editedText(old, byMine, renderer.name, 'harbour'),
        ]
        carryInAllWays(texts, optionsOf(renderer))
      }),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 4) },
    )
  })

  test('another name for the format changes nothing either', () => {
    const options = optionsOf(renderer)
    const other = { ...options.format, name: 'another' as Renderer['name'] } // no test of it may matter
    fc.assert(
      fc.property(richStories(renderer.depth === 0), (story) => {
        const texts = written(renderer, story)
        expect(carryText(texts, { ...options, format: other })).toEqual(carryText(texts, options))
      }),
      RUNS,
    )
  })

  test('the inside of what stands over several lines is as an input has it', () => {
    const format = formatNamed(renderer.name)
    const inside = (text: string): string[] => {
      const doc = readDoc(format, text)
      if (doc === undefined) throw new Error(`does not load:\n${text}`)
      const leaves = Array.from({ length: doc.tree.length }, (_, node) => node).filter((node) =>
        [Kind.Text, Kind.Comment, Kind.Property].includes(doc.kind(node)),
      )
      return leaves.map((node) => doc.tree.body(node).trim()).filter((body) => body.includes('\n'))
    }
    let count = 0
    fc.assert(
      fc.property(richStories(renderer.depth === 0), (story) => {
        const texts = written(renderer, story)
        const known = new Set(texts.flatMap(inside))
        const all = inside(carryText(texts, optionsOf(renderer)).text ?? '')
        count += all.length
        expect(all.filter((each) => !known.has(each))).toEqual([])
      }),
      RUNS,
    )
    expect(count).toBeGreaterThan(RUNS.numRuns)
  })
})

test('all thresholds are one parameter', () => {
  expect(Object.keys(ALL_WAYS).sort()).toEqual(Object.keys(NO_WAYS).sort())
})
