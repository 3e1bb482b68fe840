import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Decision } from '../../../src/core/plan/decide.ts'
import type { ListPlan, Plan, Telling } from '../../../src/core/plan/plan.ts'
import { writePlan } from '../../../src/core/write/write-plan.ts'
import { IDENTITY } from '../laws/laws.ts'
import { PLAIN, stories } from '../laws/model.ts'
import { readBack } from '../laws/oracle.ts'
import { renderers } from '../laws/render.ts'
import { RUNS } from '../laws/runs.ts'
import { planned } from './planned.ts'

function carry(
  name: FormatName,
  texts: Triple<string>,
  decisions: readonly Decision[] = [],
  more: Partial<CarryOptions> = {},
): CarriedText & { text: string } {
  const options = { format: formatNamed(name), path: 'a', identity: IDENTITY, decisions, ...more }
  const { text, ...carried } = carryText(texts, options)
  if (text === undefined) throw new Error(`unread: ${JSON.stringify(carried.problems)}`)
  return { ...carried, text }
}

const all = (carried: CarriedText, take: 'vanilla' | 'mine'): Decision[] =>
  carried.conflicts.map(({ key }) => ({ key, by: 'decision', take }))

describe.each(renderers)('decisions in $name', (renderer) => {
  const told = stories(renderer.depth).map(({ old, fresh, mine }): Triple<string> => [
    renderer.render(old, PLAIN),
    renderer.render(fresh, PLAIN),
    renderer.render(mine, PLAIN),
  ])

  test('for mine throughout change nothing but that nothing is open', () => {
    fc.assert(
      fc.property(told, (texts) => {
        const open = carry(renderer.name, texts)
        const decided = carry(renderer.name, texts, all(open, 'mine'))
        expect(decided.text).toBe(open.text)
        expect(decided.conflicts).toEqual([])
        const settled = decided.changes.filter(({ wasConflict }) => wasConflict !== undefined)
        expect(settled.map(({ id, result }) => [id, result])).toEqual(
          open.conflicts.map(({ id, mine }) => [id, mine]),
        )
      }),
      RUNS,
    )
  })

  test('for vanilla throughout give vanilla at each of those keys, and all else as it is', () => {
    fc.assert(
      fc.property(told, (texts) => {
        const open = carry(renderer.name, texts)
        const decided = carry(renderer.name, texts, all(open, 'vanilla'))
        expect(decided.conflicts).toEqual([])
        // exchanged, vanilla's stand where mine's did
        const exchanged = carry(renderer.name, [texts[0], texts[2], texts[1]])
        expect(readBack(decided.text, renderer).values).toEqual(
          readBack(exchanged.text, renderer).values,
        )
      }),
      RUNS,
    )
  })

  test('each class of a matching stands in the plan once, and to write it twice gives the same', () => {
    fc.assert(
      fc.property(told, (texts) => {
        const { plan, write } = written(renderer.name, texts)
        expect(write()).toBe(write())
        for (const { matching, entries, order } of listsIn(plan)) {
          expect(entries.length === 0 || entries.length === matching.length).toBe(true)
          expect(new Set(order).size).toBe(order.length)
          const inOrder = new Set(order)
          for (const [cls, { fate }] of entries.entries())
            if (entries.length > 0) expect(inOrder.has(cls)).toBe(fate !== 'out')
        }
      }),
      RUNS,
    )
  })
})

function written(name: FormatName, texts: Triple<string>): { plan: Plan; write: () => string } {
  const { plan, docs, present } = planned(formatNamed(name), texts, { identity: IDENTITY })
  return { plan, write: () => writePlan(plan, docs, { lineEnd: '\n', present }) }
}

/** All lists of a plan, also of what is taken as a whole. */
function listsIn(plan: Plan): ListPlan[] {
  const inside = (told: readonly Telling[]): ListPlan[] =>
    told.flatMap((telling) => (telling.tell === 'inside' ? listsIn(telling.plan) : []))
  switch (plan.do) {
    case 'member':
      return listsIn(plan.value)
    case 'element':
      return [plan.attributes, plan.content].flatMap((part) =>
        typeof part === 'object' && part.do === 'list' ? listsIn(part) : [],
      )
    case 'list':
      return [
        plan,
        ...plan.entries.flatMap(({ told, parts }) => [
          ...inside(told),
          ...(parts?.entry === undefined ? [] : listsIn(parts.entry)),
        ]),
      ]
    default:
      return inside(plan.told)
  }
}

describe('a decision', () => {
  const xml = (worth: string, note = 'so deep'): string =>
    `<finds>\n  <find id="a"><worth>${worth}</worth><note by="us">${note}</note></find>\n</finds>\n`
  const THREE: Triple<string> = [xml('1'), xml('2', 'deep'), xml('3', 'deeper')]

  test('for a value escapes it, and keeps what stands around it', () => {
    const { text, changes, conflicts } = carry('xml', THREE, [
      { key: 'find[a]/worth', by: 'decision', take: 'value', text: '<4 & 5' },
      { key: 'find[a]/note', by: 'rule 2', take: 'source', text: '&#65;' },
    ])
    expect(text).toBe(xml('&lt;4 &amp; 5', '&#65;'))
    expect(conflicts).toEqual([])
    expect(changes).toMatchObject([
      { key: 'find[a]/worth', by: 'decision', wasConflict: 'two-values', result: '<4 & 5' },
      { key: 'find[a]/note', by: 'rule 2', wasConflict: 'two-values', result: '&#65;' },
    ])
  })

  test.each<[FormatName, Triple<string>, string, string, string | undefined]>([
    ['json', ['{"a": 1}', '{"a": 2}', '{"a": 3}'], '4.50', '{"a": 4.50}', undefined],
    ['json', ['{"a": 1}', '{"a": 2}', '{"a": 3}'], 'four', '{"a": 3}', 'cannot stand'],
    [
      'json',
      ['{"a": "1"}', '{"a": "2"}', '{"a": "3"}'],
      'a "b"\n',
      '{"a": "a \\"b\\"\\u000a"}',
      undefined,
    ],
    ['ini', ['a = 1', 'a = 2', 'a = 3'], 'four five', 'a = four five', undefined],
    ['ini', ['a = 1', 'a = 2', 'a = 3'], 'four\nfive', 'a = 3', 'cannot stand'],
    ['xml', ['<r a="1"/>', '<r a="2"/>', "<r a='3'/>"], `'"`, `<r a='&apos;"'/>`, undefined],
    ['xml', ['<r a="1"/>', '<r a="2"/>', '<r a="3"/>'], '\u0001', '<r a="3"/>', 'cannot stand'],
  ])('in %s, %j: %j', (format, texts, value, expected, why) => {
    const key = format === 'xml' ? '@a' : 'a'
    const decision: Decision = { key, by: 'decision', take: 'value', text: value }
    const { text, notApplied = [], conflicts } = carry(format, texts, [decision])
    expect(text).toBe(expected)
    expect(conflicts).toHaveLength(why === undefined ? 0 : 1)
    expect(notApplied.map((each) => each.why)).toEqual(
      why === undefined ? [] : [expect.stringContaining(why)],
    )
  })

  test('for both puts what both have into a list, vanilla first', () => {
    const slots = (...names: string[]): string =>
      `{ "slots": ["rope", ${names.map((n) => `"${n}"`).join(', ')}, "net"] }`
    const texts: Triple<string> = [slots('tar'), slots('lamp', 'oar'), slots('hook')]
    const [open] = carry('json', texts).conflicts
    const decision = { key: open?.key ?? '', by: 'decision', take: 'both' } as const
    const { text, conflicts } = carry('json', texts, [decision])
    expect(text).toBe(slots('lamp', 'oar', 'hook'))
    expect(conflicts).toEqual([])
  })

  test('moves the edits of an entry that vanilla dropped onto another one', () => {
    const boats = (name: string, crew: number, mast: number, berth = 1): string =>
      `<boats>\n  <boat id="hulk"/>\n  <boat id="raft"/>\n  <boat id="${name}"><crew>${crew}</crew><mast>${mast}</mast><berth>${berth}</berth></boat>\n</boats>\n`
    const texts: Triple<string> = [boats('smack', 3, 1), boats('ketch', 3, 2), boats('smack', 8, 1)]
    const asked = carry('xml', texts).conflicts
    expect(asked).toMatchObject([{ key: 'boat[smack]', kind: 'gone-in-vanilla' }])
    const onto = (to: string): Decision[] => [
      { key: 'boat[smack]', by: 'decision', take: 'onto', to },
    ]
    const { text, conflicts } = carry('xml', texts, onto('boat[ketch]'))
    expect(text).toBe(boats('ketch', 8, 2))
    expect(conflicts).toEqual([])
    expect(carry('xml', texts, onto('boat[none]')).notApplied).toMatchObject([
      { key: 'boat[smack]' },
    ])
  })

  test('takes an order, or a shape, of one side', () => {
    const charts = (...names: string[]): string =>
      `<charts>\n${names.map((each) => `  <chart>${each}</chart>\n`).join('')}</charts>\n`
    const orders: Triple<string> = [
      charts('a', 'b', 'c'),
      charts('c', 'a', 'b'),
      charts('b', 'a', 'c'),
    ]
    const vanilla: Decision = { key: 'chart', by: 'decision', take: 'vanilla' }
    const more = { ordered: new Set(['chart']) }
    expect(carry('xml', orders, [vanilla], more)).toMatchObject({ text: orders[1], conflicts: [] })
    const shapes: Triple<string> = ['{"a": 1}', '{"a": {"b": 1}}', '{"a": [1]}']
    expect(carry('json', shapes, [{ ...vanilla, key: 'a' }])).toMatchObject({
      text: shapes[1],
      conflicts: [],
    })
  })

  test('for a key at which nothing is asked is not applied', () => {
    const decision: Decision = { key: 'find[b]', by: 'decision', take: 'vanilla' }
    const { notApplied } = carry('xml', THREE, [decision])
    expect(notApplied).toEqual([{ key: 'find[b]', why: 'nothing is in question there' }])
  })
})
