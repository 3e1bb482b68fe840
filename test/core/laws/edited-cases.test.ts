import assert from 'node:assert/strict'
import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import type { Side, Triple } from '../../../src/core/document/sides.ts'
import { MINE, NEW, OLD, triple } from '../../../src/core/document/sides.ts'
import { FORMAT_NAMES, formatNamed } from '../../../src/core/formats/index.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { outlines } from '../plan/planned.ts'
import { answered, digestOf, expectRest } from './any-texts.ts'
import type { Dice } from './lists.ts'
import { dice } from './lists.ts'
import { ALL_WAYS, NO_WAYS } from './short-ways.ts'
import { editedEntries, someEdits } from './text-edits.ts'

/** So many stories begin with each case. */
const STORIES = 5

const ROOT = fileURLToPath(new URL('../cases/', import.meta.url))
const NAMES = ['old', 'new', 'mine'] as const

interface Beginning {
  name: string
  format: FormatName
  texts: Triple<string>
}

const beginnings = readdirSync(ROOT)
  .sort()
  .flatMap((name): Beginning[] => {
    const format = FORMAT_NAMES.find((each) => name.startsWith(`${each}-`))
    if (format === undefined) return []
    const texts = triple((side) => readFileSync(`${ROOT}${name}/${NAMES[side]}.${format}`, 'utf8'))
    return [{ name, format, texts }]
  })

const ORDERS: readonly Triple<Side>[] = [
  [OLD, NEW, MINE],
  [OLD, NEW, MINE],
  [OLD, MINE, NEW],
  [NEW, OLD, MINE],
  [MINE, NEW, OLD],
]

/** The texts of a case after edits of each, and at times in another order. */
function storyOf({ format, texts }: Beginning, roll: Dice): Triple<string> {
  const order = ORDERS[roll(ORDERS.length)] ?? [OLD, NEW, MINE]
  return triple((side) => {
    const text = texts[order[side]]
    return editedEntries(text, someEdits(roll), format, `edit${side}x`)
  })
}

function carry(
  format: FormatName,
  texts: Triple<string>,
  more: Partial<CarryOptions> = {},
): CarriedText {
  return carryText(texts, { format: formatNamed(format), path: 'a', thresholds: NO_WAYS, ...more })
}

/** What holds whatever was done to the files: one side's changes alone are taken as they are, and what results loads. */
function expectLaws(format: FormatName, texts: Triple<string>, carried: CarriedText): void {
  const [old, fresh] = texts
  expectRest(texts, (three) => carry(format, three))
  assert.deepEqual(carry(format, texts, { thresholds: ALL_WAYS }), carried, 'short ways')
  if (carried.text === undefined) return
  assert.notEqual(carry(format, [old, fresh, carried.text]).text, undefined, carried.text)
}

/** All that comes of three texts: of the carry, of each answer to all questions, and of comparing without an old. */
function outcomes(format: FormatName, texts: Triple<string>, carried: CarriedText): unknown[] {
  const decided = answered(carried, (more) => carry(format, texts, more))
  const compared = carry(format, texts, { everyDifference: true }).conflicts
  return [
    carried,
    ...decided,
    compared,
    ...(carried.text === undefined ? [] : outlines(formatNamed(format), texts)),
  ]
}

describe.each(FORMAT_NAMES)('edited cases in %s', (format) => {
  test('obey the laws, and come out as they did', async () => {
    const lines = beginnings
      .filter((each) => each.format === format)
      .map((each) => {
        const all: unknown[] = []
        const counts = { open: 0, unread: 0 }
        for (let seed = 1; seed <= STORIES; seed++) {
          const texts = storyOf(each, dice(seed))
          const carried = carry(format, texts)
          expectLaws(format, texts, carried)
          if (carried.text === undefined) counts.unread++
          else if (carried.conflicts.length > 0) counts.open++
          all.push(outcomes(format, texts, carried))
        }
        return `${each.name}: ${counts.open} asked, ${counts.unread} unread; ${digestOf(all)}`
      })
    await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot(`edited-cases/${format}.txt`)
  })
})
