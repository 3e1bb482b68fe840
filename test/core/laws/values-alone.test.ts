import assert from 'node:assert/strict'
import fc from 'fast-check'
import { test } from 'vitest'
import type { CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { Kind } from '../../../src/core/document/kind.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { MINE, triple } from '../../../src/core/document/sides.ts'
import { Doc } from '../../../src/core/formats/doc.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Value } from '../../../src/core/likeness/value.ts'
import { ValueCarry } from '../../../src/core/match/carry-values.ts'
import { scopeOf } from '../../../src/core/match/tell-apart.ts'
import { SHORT } from './list-laws.ts'
import { dice, LISTS, listStory, written } from './lists.ts'
import { RUNS } from './runs.ts'

// A list is proven by a merge of values that knows nothing of form. It proves something only as long as it comes to
// what the carry itself comes to.

type Inspected = Parameters<NonNullable<CarryOptions['inspect']>>[0]

function expectTheSame(texts: Triple<string>, name: FormatName): void {
  const format = formatNamed(name)
  const found: Inspected[] = []
  const { text, conflicts } = carryText(texts, {
    format,
    path: `hold.${name}`,
    inspect: (each) => found.push(each),
  })
  const [inspected] = found
  assert.ok(inspected !== undefined && text !== undefined)
  const { docs, identities } = inspected
  const { values } = identities.known
  const reader = format.reader(texts)
  const rootOf = (doc: Doc): Value => values.of(doc, Math.max(0, doc.root()))
  const result = rootOf(new Doc(format, reader.read(text).tree, reader))
  const roots = triple((side) => rootOf(docs[side]))
  const carry = new ValueCarry(identities)
  const lists = [true, false].map((isAttribute) =>
    carry['list'](
      triple((side) =>
        roots[side].parts.filter(({ kind }) => (kind === Kind.Attribute) === isAttribute),
      ),
      scopeOf(roots[MINE].kind, '', false, identities),
    ),
  )
  const merged = values.holding(
    { ...roots[MINE], text: result.text },
    lists.flatMap(({ parts }) => parts),
  )
  assert.equal(merged.id, result.id)
  assert.equal(
    lists.some(({ isOpen }) => isOpen),
    conflicts.length > 0,
  )
}

/** The list by itself; in one of two entries without names, whose other sides may change, too. */
const within = {
  json: (text: string, bell: number): string => `{ "ships": [${text}, { "bell": ${bell} }] }\n`,
  xml: (text: string, bell: number): string =>
    `<ships>\n<ship>${text}</ship>\n<ship><bell>${bell}</bell></ship>\n</ships>\n`,
  ini: (text: string): string => text,
}

test.each(LISTS)(
  'a list of $family.name in $format comes to the same without its form',
  ({ format, family }) => {
    fc.assert(
      fc.property(fc.nat(), fc.boolean(), (seed, isWithin) => {
        const { old, fresh, mine } = listStory(seed, family, SHORT)
        const lists = [old, fresh, mine] as const
        const texts = triple((side) => {
          const text = written(lists[side], format)
          return isWithin ? within[format](text, seed % 3 === side ? 2 : 1) : text
        })
        expectTheSame(texts, format)
      }),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 8) },
    )
  },
)

/** What may stand in a field: values of all sorts, one of which may take the place of another. */
const SORTS = {
  json: [
    '1',
    '2',
    '"x"',
    '[1, 2]',
    '["x"]',
    '[{ "k": 1 }]',
    '[]',
    '{}',
    '{ "k": 1 }',
    '{ "k": 2 }',
  ],
  xml: [
    '',
    'x',
    'y',
    '<k>1</k>',
    '<k>2</k>',
    '<k>1</k><k>2</k>',
    '<k n="1"/>',
    '<k/><!-- a word -->',
  ],
}

test.each(['json', 'xml'] as const)('values of all sorts in %s come to the same', (format) => {
  const write = (fields: readonly (readonly [string, number])[][]): string => {
    const sorts = SORTS[format]
    const entries = fields.map((each) =>
      each.map(([name, sort]) => {
        const value = sorts[sort % sorts.length] ?? ''
        return format === 'json' ? `"${name}": ${value}` : `<${name}>${value}</${name}>`
      }),
    )
    return format === 'json'
      ? `[${entries.map((each) => `\n  { ${each.join(', ')} }`).join(',')}\n]\n`
      : `<all>${entries.map((each) => `\n  <one>${each.join('')}</one>`).join('')}\n</all>\n`
  }
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const roll = dice(seed)
      const old = Array.from({ length: 1 + roll(3) }, () =>
        ['a', 'b', 'c'].map((name) => [name, roll(10)] as const),
      )
      const changed = (): typeof old =>
        old.flatMap((entry) => {
          if (roll(9) === 0) return []
          return [
            entry.flatMap(([name, sort]) =>
              roll(9) === 0 ? [] : [[name, roll(3) === 0 ? roll(10) : sort] as const],
            ),
          ]
        })
      expectTheSame([write(old), write(changed()), write(changed())], format)
    }),
    RUNS,
  )
})
