import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { Kind } from '../../../src/core/document/kind.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

const json = formatNamed('json')

function carry(
  old: string,
  fresh: string,
  mine: string,
): { text: string | undefined; open: string[]; codes: string[]; dialect: string } {
  const { text, conflicts, problems, dialect } = carryText([old, fresh, mine], {
    format: json,
    path: 'a.json',
  })
  return {
    text,
    open: conflicts.map((each) => each.key),
    codes: problems.map((each) => each.code),
    dialect,
  }
}

describe('JSON5, where vanilla is JSON5', () => {
  const old =
    "{\n  // sea\n  swell: 3,\n  'old pier': 'it\\'s',\n  depth: +.5,\n  mask: 0xFF,\n  most: Infinity,\n  word: 'one\\\ntwo',\n}\n"

  test('is merged by key, in its own form', () => {
    const fresh = old.replace('swell: 3', 'swell: 4').replace('mask', "tide: 'half', mask")
    const mine = old.replace("'it\\'s'", "'mine'").replace('+.5', '.75')
    expect(carry(old, fresh, mine)).toEqual({
      text: fresh.replace("'it\\'s'", "'mine'").replace('+.5', '.75'),
      open: [],
      codes: [],
      dialect: 'comments, trailing-commas, json5',
    })
  })

  test('forms of one value are one value', () => {
    const mine = old
      .replace("'it\\'s'", '"it\'s"')
      .replace('swell', '"swell"')
      .replace('+.5', '0.50')
    expect(
      carry(old, old.replace("'it\\'s'", "'new'").replace('swell: 3', 'swell: 4'), mine),
    ).toMatchObject({ open: [], codes: [] })
  })
})

test.each([
  ['012', 'json/bad-number'],
  ['-01', 'json/bad-number'],
  ['1.5.2', 'json/bad-number'],
  [String.raw`'\x'`, 'json/bad-escape'],
  [String.raw`'\x4'`, 'json/bad-escape'],
  [String.raw`'\1'`, 'json/bad-escape'],
  [String.raw`'\01'`, 'json/bad-escape'],
])('JSON5 has no %s', (value, code) => {
  expect(carry('{a: 1}', '{a: 2}', `{a: ${value}}`)).toMatchObject({
    text: undefined,
    codes: [code],
  })
})

test.each([String.raw`'\x41'`, String.raw`'\0'`, String.raw`'\q'`, '5.', '.5', '-0', '0x1F'])(
  'JSON5 has %s',
  (value) => {
    expect(carry('{a: 1}', '{a: 2}', `{a: 1, b: ${value}}`)).toMatchObject({
      text: `{a: 2, b: ${value}}`,
      codes: [],
    })
  },
)

test('where vanilla is strict, a name without quotes is an error in mine', () => {
  expect(carry('{"a": 1}', '{"a": 2}', '{a: 1}')).toMatchObject({
    text: undefined,
    codes: ['json/expected-name'],
  })
  expect(carry('{"a": 1}', '{"a": 2}', "{'a': 1}")).toMatchObject({
    text: undefined,
    codes: ['json/expected-name'],
  })
})

test('comments and trailing commas of mine alone are kept, and told with their place', () => {
  expect(carry('{"a": [1]}', '{"a": [1, 2]}', '{"a": [1,], // mine\n}')).toMatchObject({
    text: '{"a": [1, 2,], // mine\n}',
    codes: ['json/lax-comment', 'json/lax-trailing-comma'],
  })
})

test('vanilla drops a trailing comma, and mine has not touched it', () => {
  expect(carry('[1,]', '[2]', '[1,]').text).toBe('[2]')
})

test('members that are there twice are told with both places, and both stay', () => {
  expect(carry('{"a": 1, "b": 1}', '{"a": 1, "b": 2}', '{"a": 1, "b": 1, "a": 3}')).toMatchObject({
    text: '{"a": 1, "b": 2, "a": 3}',
    open: [],
    codes: ['carry/duplicate-key'],
  })
})

test('names like __proto__ are names like any other', () => {
  expect(
    carry(
      '{"__proto__": 1, "constructor": 1}',
      '{"__proto__": 2, "constructor": 1}',
      '{"__proto__": 1, "constructor": 5}',
    ),
  ).toMatchObject({
    text: '{"__proto__": 2, "constructor": 5}',
    open: [],
  })
})

test('roots that are scalars or arrays', () => {
  expect(carry('1', '2', '1').text).toBe('2')
  expect(carry('1', '2', '3')).toMatchObject({ text: '3', open: [''] })
  expect(carry('{"a": 1}', '[{"a": 1}]', '{"a": 2}')).toMatchObject({
    text: '{"a": 2}',
    open: [''],
  })
})

describe('the dialect that the config names', () => {
  const lax = '{\n  // in knots\n  "a": 1,\n}'
  const json5 = "{a: 'x'}"

  test.each([
    ['strict', lax, ['json/lax-comment', 'json/lax-trailing-comma']],
    ['strict', json5, ['json/expected-name']],
    ['comments', lax, []],
    ['comments', json5, ['json/expected-name']],
    ['json5', lax, []],
    ['json5', json5, []],
  ] as const)('%s on %j: %j', (dialect, source, codes) => {
    const reader = json.reader([source, json5], { json: dialect })
    const { problems, lax: told } = reader.read(source)
    expect(problems.map(({ code, severity }) => `${severity} ${code}`)).toEqual(
      codes.map((code) => `error ${code}`),
    )
    expect([reader.dialect, told]).toEqual([dialect, []])
  })
})

test('what is read in one go and what is read piece by piece has the same nodes', () => {
  const parts = (source: string): string[] => {
    const { tree, problems } = json.read(source)
    expect(problems).toEqual([])
    const nodes = Array.from({ length: tree.length }, (_, node) => node)
    const depths: number[] = []
    return nodes
      .filter((node) => tree.kind(node) !== Kind.Comment && tree.kind(node) !== Kind.Document)
      .map((node) => {
        while (node >= (depths.at(-1) ?? Infinity)) depths.pop()
        const name = source.slice(tree.start(node), tree.nameEnd(node))
        const value = tree.kind(node) === Kind.Scalar ? tree.body(node) : ''
        depths.push(tree.next(node))
        return `${depths.length} ${tree.kind(node)} ${name} ${value}`
      })
  }
  const text = fc.tuple(fc.jsonValue(), fc.constantFrom('', '  ', '\t'))
  fc.assert(
    fc.property(text, ([value, indent]) => {
      const plain = JSON.stringify([value, { value }], null, indent)
      // a comment behind every string, bracket and comma
      const commented = plain.replace(/"(?:[^"\\]|\\.)*"|[[\]{},]/g, (token) => `${token}/**/`)
      expect(parts(commented)).toEqual(parts(plain))
    }),
  )
})
