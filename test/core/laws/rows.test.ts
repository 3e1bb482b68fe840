import assert from 'node:assert/strict'
import fc from 'fast-check'
import { test } from 'vitest'
import { Doc } from '../../../src/core/formats/doc.ts'
import { shownValue } from '../../../src/core/formats/shown-value.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { documentKeys } from '../../../src/core/identity/document-keys.ts'
import { Identities } from '../../../src/core/identity/identities.ts'
import { SHORT } from './list-laws.ts'
import { carryList, LISTS, listStory, written } from './lists.ts'
import { RUNS } from './runs.ts'

// A report is true: what a row says stands at a key of the result stands there.

const all = LISTS.filter(({ family }) => family.isPlain !== true)

/** Keys that count what has no name, or a name that others have: the result counts otherwise than the documents do. */
const COUNTED = /~|\[\d+\]|\[""\]|\bitem(\/|$)/i

const inOneLine = (text: string): string => text.replace(/\s+/g, ' ').trim()

test.each(all)('rows of a list of $family.name in $format', ({ format, family }) => {
  fc.assert(
    fc.property(fc.nat(), fc.constantFrom(undefined, 'vanilla', 'mine'), (seed, take) => {
      const story = listStory(seed, family, SHORT)
      const lists = [story.old, story.fresh, story.mine] as const
      const open = carryList([...lists], format)
      const decisions =
        take === undefined
          ? []
          : open.conflicts.map(({ key }) => ({
              key,
              by: 'decision',
              take: take as 'vanilla' | 'mine',
            }))
      const { text = '', changes, identities } = carryList([...lists], format, decisions)
      const reader = formatNamed(format).reader([written(story.old, format)])
      const doc = new Doc(formatNamed(format), reader.read(text).tree, reader)
      const keys = documentKeys(doc, new Identities([doc], new Map(), identities))
      const nodes = new Map(keys.map(({ key, node }) => [key, node]))
      for (const { key, result } of changes) {
        if (result === null || COUNTED.test(key)) continue
        const node = nodes.get(key)
        if (node === undefined || nodes.has(`${key}~2`)) continue
        assert.equal(inOneLine(result), inOneLine(shownValue(doc, node)), key)
      }
    }),
    { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 5) },
  )
})
