import { createHash } from 'node:crypto'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { Kind } from '../../../src/core/document/kind.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

/*
 * Inputs over which a reader would sit for hours, or would run out of stack, if it went over any part of
 * them once more for each other part.
 */
const codes = (name: 'xml' | 'ini', source: string): string[] =>
  formatNamed(name)
    .reader([source])
    .read(source)
    .problems.map(({ code }) => code)

/** Entities each of which refers to the one before, so many times, around an innermost one. */
function nested(depth: number, times: number, innermost: string): string {
  const all = Array.from(
    { length: depth },
    (_, i) => `<!ENTITY e${i + 1} "${`&e${i};`.repeat(times)}">`,
  )
  return `<!DOCTYPE a [<!ENTITY e0 "${innermost}">${all.join('')}]><a b="&e${depth};">&e${depth};</a>`
}

describe('entities of a DOCTYPE are judged once each', () => {
  test('however often and however deep they refer to each other', () => {
    expect(codes('xml', nested(60, 9, 'x'))).toEqual([])
    expect(codes('xml', nested(30_000, 2, 'x'))).toEqual([])
  })

  test('and what is wrong with one is wrong with all around it', () => {
    const twice = ['xml/unknown-entity', 'xml/unknown-entity']
    expect(codes('xml', nested(60, 9, '&lost;'))).toEqual(twice)
    expect(codes('xml', nested(60, 9, '&e60;'))).toEqual(twice)
    // what holds a < may be referred to from text, and not from an attribute
    expect(codes('xml', nested(60, 9, '<b/>'))).toEqual(['xml/unknown-entity'])
  })
})

describe('a value of INI over many lines is read once', () => {
  const MANY = '  { as heavy as the anchor of a ship of the line },\n'.repeat(40_000)

  test.each([
    ['in braces', `table = {\n${MANY}}\nend = 1\n`, 2],
    ['in braces that are not closed', `[sea]\ntable = {\n${MANY}`, 0],
    ['in quotes', `note = "one\n${MANY}"\nend = 1\n`, 2],
    ['further in', `list = one\n${MANY}end = 1\n`, 2],
  ])('%s', (_what, source, count) => {
    const reader = formatNamed('ini').reader([source], { ini: { openQuotes: 'lines' } })
    const { tree, problems } = reader.read(source)
    expect(problems.map(({ code }) => code)).toEqual(count === 0 ? ['ini/unclosed-brace'] : [])
    const nodes = Array.from({ length: tree.length }, (_, node) => node)
    const all = nodes.filter((node) => tree.kind(node) === Kind.Property)
    expect(all.length).toBe(count === 0 ? 1 : count)
  })
})

describe('a long value', () => {
  const long = (mark: string): string => `${mark}${'as heavy as an anchor '.repeat(2000)}${mark}`
  const json = (value: string): string => `{ "note": "${value}", "worth": 1 }`
  const carry = (old: string, fresh: string, mine: string) =>
    carryText([json(old), json(fresh), json(mine)], {
      format: formatNamed('json'),
      path: 'finds.json',
    })

  test('stands in a report by its beginning and its end, with its length', () => {
    const [conflict] = carry(long('a'), long('b'), long('c')).conflicts
    const [row] = carry(long('a'), 'short', long('a')).changes
    expect(conflict?.new).toBe(`${long('b').slice(0, 1000)} … ${long('b').slice(-1000)}`)
    const { length } = long('a')
    expect(conflict?.cut).toEqual({ old: length, new: length, mine: length, result: length })
    expect(row?.cut).toEqual({ old: length, mine: length })
    expect(row?.result).toBe('short')
  })

  test('has an id that is of the whole of it', () => {
    const middle = (mark: string): string => long('a').replace(/^(.{9000})./, `$1${mark}`)
    const ids = ['x', 'y'].map((mark) => carry(long('a'), long('b'), middle(mark)).conflicts[0]?.id)
    expect(new Set(ids).size).toBe(2)
    const hash = createHash('sha256')
    const decoded = [long('a'), long('b'), long('c')].map((text) => `"${text}`)
    for (const part of ['finds.json', 'note', ...decoded.map((text) => `${text.length}:${text}`)])
      hash.update(`${part.length}:${part}`)
    const [conflict] = carry(long('a'), long('b'), long('c')).conflicts
    expect(conflict?.id).toBe(hash.digest('hex').slice(0, 12))
  })

  test('of 20,000 characters is no long one', () => {
    const most = 'a'.repeat(20_000)
    const [row] = carry('b', most, 'b').changes
    expect([row?.new, row?.cut]).toEqual([most, undefined])
  })
})
