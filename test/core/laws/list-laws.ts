import assert from 'node:assert/strict'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import type { Extent, Family, List, ListStory } from './lists.ts'
import { carryList, listStory, written } from './lists.ts'

/** As many lists of each family and format as of documents for a law. */
export const SHORT: Extent = { least: 2, most: 6, edits: 3 }
export const LONG: Extent = { least: 200, most: 400, edits: 12 }

const SECTION = /^\[Item\]$/m

/** What a result is as lines, each an entry, whatever stands between them. */
const linesOf = (text: string): string[] =>
  text
    .split(SECTION.test(text) ? /\n(?=\[)/ : '\n')
    .map((line) => line.trim().replace(/,$/, ''))
    .filter((line) => line !== '')

/** Whether what stands in both has one order; of lines that are the same nothing is known. */
function haveOneOrder(result: readonly string[], side: readonly string[]): boolean {
  const isSet = (lines: readonly string[]): boolean => new Set(lines).size === lines.length
  if (!isSet(result) || !isSet(side)) return true
  const shared = result.filter((line) => side.includes(line))
  return shared.join() === side.filter((line) => result.includes(line)).join()
}

/** Nothing is guessed: the result is what has to come of the story, or somebody is asked. */
export function expectNoGuess(story: ListStory, format: FormatName, carried: CarriedText): void {
  const isAsked = carried.conflicts.length > 0
  const [fresh, mine] = [written(story.fresh, format), written(story.mine, format)]
  if (story.isDistinct && story.mustAsk && fresh !== mine) assert.ok(isAsked, 'nobody is asked')
  if (story.mayNotAsk) assert.deepEqual(carried.conflicts, [], 'asked in vain')
  if (isAsked || story.mustAsk || fresh === mine) return
  const result = linesOf(carried.text ?? '')
  assert.deepEqual([...result].sort(), linesOf(written(story.expected, format)).sort())
  const { mover } = story
  if (mover !== 'm') assert.ok(haveOneOrder(result, linesOf(fresh)), 'the order of new is lost')
  if (mover !== 'v') assert.ok(haveOneOrder(result, linesOf(mine)), 'the order of mine is lost')
}

/** Each thing that a side wrote stands in the result, or in a question. */
export function expectNothingLost({ marks }: ListStory, { text, conflicts }: CarriedText): void {
  const told = [text ?? '', ...conflicts.flatMap((each) => [each.new, each.mine])].join('\n')
  assert.deepEqual(
    marks.filter((mark) => !told.includes(mark)),
    [],
  )
}

/** The keys at which something is asked, without what tells an entry: that may be another one's in each. */
const askedAt = ({ conflicts }: CarriedText): string[] =>
  conflicts.map(({ key }) => key.replace(/\[[^\]]*\]|~[0-9]+/g, '')).sort()

/** Each question can be answered for either side, and none is left then. */
function expectAllDecidable(
  lists: Triple<List>,
  format: FormatName,
  { conflicts }: CarriedText,
): void {
  for (const take of conflicts.length > 0 ? (['vanilla', 'mine'] as const) : []) {
    const decisions = conflicts.map(({ key }) => ({ key, by: 'decision', take }))
    const settled = carryList(lists, format, decisions)
    assert.deepEqual([settled.conflicts, settled.notApplied], [[], undefined], 'not to be decided')
  }
}

/** What holds of each list, whatever is done to it. */
export function expectListLaws(
  family: Family,
  format: FormatName,
  seed: number,
  extent: Extent,
): void {
  const story = listStory(seed, family, extent)
  const { old, fresh, mine } = story
  const carried = carryList([old, fresh, mine], format)
  expectNoGuess(story, format, carried)
  expectNothingLost(story, carried)
  // a repeated carry changes nothing; what stood for an open question is then an edit like any other
  if (family.shares !== true || carried.conflicts.length === 0) {
    const again = carryList([old, fresh, carried.text ?? ''], format)
    assert.equal(again.text, carried.text, 'a repeated carry changes the result')
  }
  expectAllDecidable([old, fresh, mine], format, carried)
  // new and mine exchanged
  const back = carryList([old, mine, fresh], format)
  assert.deepEqual(askedAt(back), askedAt(carried))
  if (carried.conflicts.length === 0)
    assert.deepEqual(linesOf(back.text ?? '').sort(), linesOf(carried.text ?? '').sort())
}
