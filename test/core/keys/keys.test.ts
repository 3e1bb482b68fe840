import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  identitySegment,
  joinKey,
  keyPattern,
  quoteName,
  withOccurrence,
} from '../../../src/core/keys/key.ts'
import { canonicalNumber } from '../../../src/core/formats/json/number.ts'
import { LineMap } from '../../../src/core/document/line-map.ts'

describe('keys', () => {
  test('names stand as they are where they can be read back, else in quotes', () => {
    expect(quoteName('brass-lamp')).toBe('brass-lamp')
    expect(quoteName('old pier')).toBe('"old pier"')
    expect(quoteName('say "hi" \\ twice')).toBe('"say \\"hi\\" \\\\ twice"')
    expect(['a/b', 'a[b', 'a]b', 'a|b', 'a~b', 'a*b', 'a?b', ''].map(quoteName)).toEqual([
      '"a/b"',
      '"a[b"',
      '"a]b"',
      '"a|b"',
      '"a~b"',
      '"a*b"',
      '"a?b"',
      '""',
    ])
  })

  test('segments are joined by /, but a list index or identity follows directly', () => {
    expect(joinKey('roles', '[stoker]')).toBe('roles[stoker]')
    expect(joinKey('roles[stoker]', 'kit')).toBe('roles[stoker]/kit')
    expect(joinKey('', 'sea')).toBe('sea')
    expect(joinKey('find[lamp]/worth', '')).toBe('find[lamp]/worth')
    expect(identitySegment(['lamp', 'en gb'])).toBe('[lamp|"en gb"]')
    expect(withOccurrence('find[lamp]', 2)).toBe('find[lamp]~2')
    expect(withOccurrence('find[lamp]', 1)).toBe('find[lamp]')
  })

  test('a pattern has * for every identity, whatever stands in it', () => {
    expect(keyPattern('find[brass-lamp]/yield/@most')).toBe('find[*]/yield/@most')
    expect(keyPattern('find["a ] b"]/worth')).toBe('find[*]/worth')
    expect(keyPattern('find[lamp]~2/worth')).toBe('find[*]/worth')
    expect(keyPattern('"old pier"/[a|b]')).toBe('"old pier"/[*]')
  })
})

describe('numbers are compared as exact decimals', () => {
  test.each([
    ['2.40', '2.4'],
    ['24e-1', '2.4'],
    ['1E2', '100'],
    ['-0.0', '0'],
    ['0.10e+1', '1'],
    ['9007199254740993', '9007199254740993.0'],
  ])('%s is %s', (a, b) => {
    expect(canonicalNumber(a)).toBe(canonicalNumber(b))
  })

  test.each([
    ['9007199254740992', '9007199254740993'],
    ['0.1', '0.10000000000000001'],
    ['1', '-1'],
    ['1e400', '1e401'],
  ])('%s is not %s', (a, b) => {
    expect(canonicalNumber(a)).not.toBe(canonicalNumber(b))
  })
})

test('lines and columns count from 1, for LF, CRLF and lone CR', () => {
  const lines = new LineMap('ab\ncd\r\ne\rf')
  expect([0, 2, 3, 4, 7, 8, 9].map((offset) => lines.at(offset))).toEqual([
    { line: 1, column: 1 },
    { line: 1, column: 3 },
    { line: 2, column: 1 },
    { line: 2, column: 2 },
    { line: 3, column: 1 },
    { line: 3, column: 2 },
    { line: 4, column: 1 },
  ])
  expect([0, 4, 6, 8, 9].map((offset) => lines.textAt(offset))).toEqual([
    'ab',
    'cd',
    'cd',
    'e',
    'f',
  ])
})

test('lines are the same however long the text is', () => {
  const pieces = fc.constantFrom('depth', '\n', '\r\n', '\r', 'x'.repeat(3000))
  fc.assert(
    fc.property(fc.array(pieces, { minLength: 10, maxLength: 40 }), (parts) => {
      const source = parts.join('')
      const lines = new LineMap(source)
      let [line, start] = [1, 0]
      for (let at = 0; at < source.length; at++) {
        if (at % 97 === 0) expect(lines.at(at)).toEqual({ line, column: at - start + 1 })
        const ends = source[at] === '\r' ? source[at + 1] !== '\n' : source[at] === '\n'
        if (ends) [line, start] = [line + 1, at + 1]
      }
      expect(lines.at(source.length)).toEqual({ line, column: source.length - start + 1 })
    }),
  )
})
