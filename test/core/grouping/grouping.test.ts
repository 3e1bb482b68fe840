import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { FileChanges, Group } from '../../../src/core/grouping/group.ts'
import type { KeyChange } from '../../../src/core/grouping/key-change.ts'
import { groupChanges } from '../../../src/core/grouping/group.ts'
import { divideByLaw } from '../../../src/core/grouping/law.ts'
import { entryOf, keySegments } from '../../../src/core/keys/key.ts'

const names = fc.constantFrom('lamp', 'bell', 'clasp', 'anchor', '"old pier"', 'a|b', '"a/b[c]"')
const leaves = fc.constantFrom('worth', '@class', 'yield/@most', 'bed/depth', 'kit[2]')
const entries = fc.oneof(
  names.map((name) => `find[${name}]`),
  fc.tuple(names, names).map(([a, b]) => `wreck[${a}]/hold[${b}]`),
  fc.constantFrom('skiff', 'cutter', 'barge', 'raft', 'limits'),
)
const keys = fc.oneof(
  fc.tuple(entries, leaves).map(([entry, leaf]) => `${entry}/${leaf}`),
  entries,
  fc.constantFrom('release', '', 'lines[3-4]'),
)
const value = fc.oneof(
  fc.integer({ min: -5, max: 40 }).map(String),
  fc.constantFrom('1.5', '2.50', 'half', '', '900719925474099312'),
)
const change: fc.Arbitrary<KeyChange> = fc.record({
  key: keys,
  kind: fc.constantFrom('added', 'removed', 'changed', 'moved', 'renamed'),
  old: fc.option(value),
  new: fc.option(value),
})
const files: fc.Arbitrary<FileChanges[]> = fc.uniqueArray(
  fc.record({
    path: fc.constantFrom(
      ...['salvage/finds.xml', 'salvage/wrecks.xml', 'salvage/deep.xml', 'salvage/odd.xml'],
      ...['rules/sea.ini', 'crew/roles.json'],
    ),
    changes: fc.uniqueArray(change, { maxLength: 40, selector: ({ key }) => key }),
  }),
  { selector: ({ path }) => path },
)

const held = (groups: readonly Group[]): string[] =>
  groups
    .flatMap(({ kind, parts }) =>
      parts.flatMap(({ changes }) =>
        changes.map(({ path, key }) => `${path}:${kind.startsWith('file-') ? '' : key}`),
      ),
    )
    .sort()

describe('grouping', () => {
  test('each change is in exactly one row, and the counts add up', () => {
    fc.assert(
      fc.property(files, (given) => {
        const groups = groupChanges(given)
        const all = given.flatMap(({ path, changes }) => changes.map(({ key }) => `${path}:${key}`))
        expect(held(groups)).toEqual(all.sort())
        for (const { count, parts } of groups)
          expect(count).toBe(parts.reduce((sum, part) => sum + part.changes.length, 0))
      }),
    )
  })

  test('the order of what is given changes nothing', () => {
    fc.assert(
      fc.property(files, fc.infiniteStream(fc.nat(1000)), (given, dice) => {
        const shuffled = <T>(list: readonly T[]): T[] =>
          list
            .map((item) => [dice.next().value ?? 0, item] as const)
            .sort(([a], [b]) => a - b)
            .map(([, item]) => item)
        const other = shuffled(
          given.map(({ path, changes }) => ({ path, changes: shuffled(changes) })),
        )
        expect(groupChanges(other)).toEqual(groupChanges(given))
      }),
    )
  })

  test('rows on the same entries are one, and a mapping by names is like a list by identities', () => {
    const on = (key: string, old: string, fresh: string): KeyChange => ({
      kind: 'changed',
      key,
      old,
      new: fresh,
    })
    const groups = groupChanges([
      {
        path: 'finds.xml',
        changes: ['lamp', 'bell'].flatMap((name) => [
          on(`find[${name}]/yield/@least`, '1', '2'),
          on(`find[${name}]/yield/@most`, '2', '4'),
        ]),
      },
      {
        path: 'boats.ini',
        changes: ['skiff', 'cutter', 'barge'].map((name, i) =>
          on(`${name}/hold`, `${i + 4}`, `${2 * (i + 4)}`),
        ),
      },
    ])
    expect(groups.map(({ pattern, count, parts }) => [pattern, count, parts.length])).toEqual([
      ['find[*]', 4, 2],
      ['*/hold', 3, 1],
    ])
    expect(groups[1]?.parts[0]?.law).toEqual({ by: 'times', numerator: '2', denominator: '1' })
  })

  test('what came to a mapping goes by the mapping, whatever stands in its name', () => {
    const groups = groupChanges([
      {
        path: 'art.json',
        changes: [{ kind: 'added', key: 'art/"lamp/lit.png"', old: null, new: '4' }],
      },
    ])
    expect(groups.map(({ pattern }) => pattern)).toEqual(['art/*'])
  })

  test('alike changes in many files are one row, and there a file may be the entry', () => {
    const files = ['lamp', 'bell', 'clasp'].map((name, i): FileChanges => ({
      path: `finds/${name}.json`,
      changes: [
        { kind: 'changed', key: 'worth', old: `${10 + i}`, new: `${20 + 2 * i}` },
        { kind: 'changed', key: 'yield/most', old: '2', new: '3' },
        { kind: 'added', key: 'fragile', old: null, new: '35' },
      ],
      names: { isKnown: () => false, count: () => 1 },
    }))
    // what was retuned is a row of its own: it does not hide under what came
    const [came, retuned, ...others] = groupChanges(files)
    expect(others).toEqual([])
    expect(came).toMatchObject({ path: 'finds/*.json', files: 3, kind: 'new-name', count: 3 })
    expect(came?.parts.map(({ pattern }) => pattern)).toEqual(['fragile'])
    expect(retuned).toMatchObject({ path: 'finds/*.json', files: 3, kind: 'changed', count: 6 })
    expect(retuned?.parts.map(({ pattern, law }) => [pattern, law?.by])).toEqual([
      ['worth', 'times'],
      ['yield/most', 'same'],
    ])
    expect(groupChanges(files.slice(0, 2)).map(({ path }) => path)).not.toContain('finds/*.json')
  })

  test('a name that no earlier entry had is a new way of saying something', () => {
    const added = (name: string): KeyChange => ({
      kind: 'added',
      key: `find[${name}]/fragile`,
      old: null,
      new: '35',
    })
    const facts = (isKnown: boolean): FileChanges['names'] => ({
      isKnown: () => isKnown,
      count: (place) => (place === 'find' ? 9 : 2),
    })
    const kinds = [false, true].map((isKnown) =>
      groupChanges([
        { path: 'a.xml', changes: [added('lamp'), added('bell')], names: facts(isKnown) },
      ]).map(({ kind, parts }) => [kind, parts[0]?.now]),
    )
    expect(kinds).toEqual([[['new-name', { have: 2, of: 9 }]], [['added', { have: 2, of: 9 }]]])
  })
})

describe('laws of numbers', () => {
  const changes = (pairs: readonly (readonly [string, string])[]) =>
    pairs.map(([old, fresh]) => ({ old, new: fresh }))
  test.each([
    [
      'halved',
      [
        ['4', '2'],
        ['10', '5'],
        ['7', '3.5'],
      ],
      { by: 'times', numerator: '1', denominator: '2' },
    ],
    [
      'plus ten',
      [
        ['1', '11'],
        ['2.5', '12.5'],
        ['-3', '7'],
      ],
      { by: 'plus', plus: '10' },
    ],
    [
      'up by a tenth, rounded',
      [
        ['210', '231'],
        ['45', '50'],
        ['295', '325'],
        ['33', '36'],
      ],
      { by: 'percent', percent: 110 },
    ],
    [
      'the same',
      [
        ['2', '3'],
        ['2', '3'],
      ],
      { by: 'same' },
    ],
    [
      'beyond floating point',
      [
        ['0.1', '0.3'],
        ['0.2', '0.4'],
        ['0.7', '0.9'],
      ],
      { by: 'plus', plus: '0.2' },
    ],
  ] as const)('%s', (_, pairs, law) => {
    expect(divideByLaw(changes(pairs))).toEqual([{ law, changes: changes(pairs) }])
  })

  test('what follows no law is one row, and those that do are apart from it', () => {
    const rows = divideByLaw(
      changes([
        ['1', '2'],
        ['2', '4'],
        ['3', '6'],
        ['4', '8'],
        ['100', '7'],
        ['half', 'full'],
      ]),
    )
    expect(rows.map(({ law, changes: all }) => [law?.by, all.length])).toEqual([
      ['times', 4],
      [undefined, 2],
    ])
  })

  test('every row keeps its law, whatever the numbers', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(60), fc.nat(60)), { maxLength: 60 }), (pairs) => {
        const rows = divideByLaw(changes(pairs.map(([old, fresh]) => [String(old), String(fresh)])))
        expect(rows.reduce((sum, row) => sum + row.changes.length, 0)).toBe(pairs.length)
        for (const { law, changes: all } of rows) {
          for (const { old, new: fresh } of all) {
            const [a, b] = [Number(old), Number(fresh)]
            if (law?.by === 'times')
              expect(b * Number(law.denominator)).toBe(a * Number(law.numerator))
            if (law?.by === 'plus') expect(b - a).toBe(Number(law.plus))
            if (law?.by === 'percent') expect(Math.round((a * law.percent) / 100)).toBe(b)
            if (law?.by === 'same') expect([old, fresh]).toEqual([all[0]?.old, all[0]?.new])
          }
        }
      }),
    )
  })
})

test('the segments of a key, and the entry around it', () => {
  const shown = (key: string): string[] =>
    keySegments(key).map(({ name, identity }) =>
      identity === undefined ? name : `${name}<${identity}>`,
    )
  expect(shown('find[brass-lamp]/yield/@most')).toEqual(['find<brass-lamp>', 'yield', '@most'])
  expect(shown('[a|b]/"x/y"/kit[2]')).toEqual(['<a|b>', '"x/y"', 'kit<2>'])
  expect(shown('find["a]/b"]~2/worth')).toEqual(['find~2<"a]/b">', 'worth'])
  expect(entryOf('find["a]/b"]/yield/@most')).toBe('find["a]/b"]')
  expect(entryOf('limits/oxygen')).toBe(undefined)
})
