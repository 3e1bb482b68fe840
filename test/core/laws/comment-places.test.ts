import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

/** Documents of a format that one side makes of one another, and where a comment may stand in one. */
interface Places {
  documents: readonly string[]
  comment: string
  mayStandAt: (text: string, offset: number) => boolean
}

const overLines = (json: string): string => `${JSON.stringify(JSON.parse(json), null, 2)}\n`

const VALUES = [
  '{}',
  '{"reef": 1}',
  '{"reef": 2, "kelp": 1}',
  '{"reef": {}}',
  '{"reef": [2]}',
  '{"reef": [{"id": "crab"}, {"id": "eel", "load": 2}]}',
]

const ELEMENTS = [
  '<dive/>',
  '<dive></dive>',
  '<dive>reef</dive>',
  '<dive><reef>1</reef></dive>',
  '<dive><reef>2</reef><kelp x="1"/></dive>',
  '<dive>\n  <kelp x="1"/>\n  <reef>1</reef>\n</dive>',
  '<dive>\n  <reef id="crab">9</reef>\n  <reef id="eel"/>\n</dive>',
  '<dive>\n  <reef id="eel">2</reef>\n</dive>',
]

const KEYS = [
  '',
  'reef = 1\n',
  '[dive]\n',
  '[dive]\nreef = 1\n',
  '[dive]\nreef = 2\nkelp = 1\n',
  '[dive]\nkelp = 1\nreef = 1\n[hold]\nload = 3\n',
  '[hold]\nload = 4\n\n[dive]\nreef = 1\n',
]

const isIn = (around: RegExp, text: string, offset: number): boolean =>
  [...text.matchAll(around)].some(
    ({ index, 0: found }) => index < offset && offset < index + found.length,
  )

const FORMATS: [FormatName, Places][] = [
  [
    'json',
    {
      documents: [...VALUES, ...VALUES.map(overLines)],
      comment: '/* deep */',
      mayStandAt: (text, offset) => !isIn(/"[^"]*"|\d+/g, text, offset),
    },
  ],
  [
    'xml',
    {
      documents: ELEMENTS.map((text) => `${text}\n`),
      comment: '<!-- deep -->',
      mayStandAt: (text, offset) => !isIn(/<[^>]*>|\w+/g, text, offset),
    },
  ],
  [
    'ini',
    {
      documents: KEYS,
      comment: '; deep\n',
      mayStandAt: (text, offset) => offset === 0 || text[offset - 1] === '\n',
    },
  ],
]

function withComment({ comment, mayStandAt }: Places, text: string): string[] {
  return Array.from({ length: text.length + 1 }, (_, offset) => offset)
    .filter((offset) => mayStandAt(text, offset))
    .map((offset) => text.slice(0, offset) + comment + text.slice(offset))
}

const timesIn = (text: string | undefined): number => (text ?? '').split('deep').length - 1

/** The comment is told of, where the result has it not. */
function isTold({ problems, conflicts }: CarriedText): boolean {
  return conflicts.length > 0 || problems.some(({ message }) => message.includes('deep'))
}

test.each(FORMATS)('a comment at any place of a %s file is kept once or told', (name, places) => {
  const format = formatNamed(name)
  const carry = (texts: Triple<string>): CarriedText => carryText(texts, { format, path: 'a' })
  const wrong: unknown[] = []
  const { documents } = places
  const pairs = documents.flatMap((old) => documents.map((other) => [old, other] as const))
  for (const [old, other] of pairs)
    for (const own of withComment(places, old))
      for (const texts of [
        [old, other, own],
        [old, own, other],
      ] as const) {
        const carried = carry(texts)
        const times = timesIn(carried.text)
        const isWrong = times > 1 || (times === 0 && !isTold(carried))
        const again =
          carried.conflicts.length > 0 ? carried : carry([texts[0], texts[1], carried.text ?? ''])
        if (isWrong || timesIn(again.text) !== times)
          wrong.push({ texts, is: carried.text, then: again.text })
      }
  expect(wrong).toEqual([])
})
