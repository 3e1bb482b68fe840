import { describe, expect, test } from 'vitest'
import { parseConfig } from '../../src/workspace/config/config.ts'
import { Failure } from '../../src/workspace/failure.ts'
import { nearest } from '../../src/core/keys/nearest.ts'

function failure(source: string): {
  line?: number
  column?: number
  message: string
  hint?: string
} {
  try {
    parseConfig(source, 'anagnosis.yaml')
  } catch (error) {
    if (error instanceof Failure) return { message: error.message, ...error.details }
    throw error
  }
  throw new Error('nothing is wrong with it')
}

describe('anagnosis.yaml', () => {
  test('is read', () => {
    expect(
      parseConfig(
        'files:\n  - match: "*.cfg"\n    format: ini\n    identity: { find: "@id" }\n',
        'a',
      ),
    ).toEqual({
      files: [{ match: '*.cfg', format: 'ini', identity: { find: '@id' } }],
    })
    expect(parseConfig('', 'a')).toEqual({})
  })

  test.each([
    [
      'fils: []',
      { line: 1, column: 1, message: 'there is no key fils here', hint: 'did you mean files?' },
    ],
    ['files:\n  - match: a\n    tke: mine', { line: 3, column: 5, hint: 'did you mean take?' }],
    [
      'files:\n  - match: a\n    take: mien',
      {
        line: 3,
        column: 11,
        message: /mien is not one of vanilla, mine, merge, leave-out; did you mean mine\?/,
      },
    ],
    ['files:\n  - take: mine', { line: 2, column: 5, message: /match is missing/ }],
    ['files: 3', { line: 1, column: 8, message: /files: a list is expected here/ }],
    ['files:\n  - match: a\n    together: [[a]]', { line: 3, column: 16, message: /together 1: / }],
    [
      'files:\n  - match: a\n    format: inni',
      { line: 3, column: 13, message: /inni is not one of xml, json, ini; did you mean ini/ },
    ],
    [
      'files:\n  - match: a\n    format: { name: json, dialect: lax }',
      { line: 3, column: 36, message: /lax is not one of strict, comments, json5/ },
    ],
    [
      'files:\n  - match: a\n    format: { name: ini, seperator: ":" }',
      { line: 3, column: 26, message: /no key seperator here/, hint: 'did you mean separator?' },
    ],
    ...['AUX', 'com¹.x', 'a.', 'b/c'].map((name): [string, object] => [
      `variants:\n  "${name}": { folder: x, vanilla: "1" }`,
      { line: 2, message: /this cannot be the name of a variant/ },
    ]),
    ['rules: []', { line: 1, column: 1, message: /rules: is not built yet/ }],
    ['files: [a', { message: /this is no YAML: a \[ or \{ before this place is not closed/ }],
    ['game: *name', { line: 1, column: 7, message: /this alias is of no anchor/ }],
    [
      'checks:\n  - { in-range: [1, 2] }',
      { line: 2, column: 5, message: /checks 1: every is missing/ },
    ],
    [
      'checks:\n  - { every: "a.ini: b", in-range: [9, 1] }',
      { line: 2, message: /the least stands first/ },
    ],
    ['files:\n  - { match: a, order: { b: yes } }', { message: /yes cannot stand here; matters/ }],
  ])('%j is refused with its place', (source, expected) => {
    const told = failure(source)
    const { message, ...place } = expected as { message?: string | RegExp }
    expect(told).toMatchObject(place)
    if (message !== undefined) expect(told.message).toMatch(message)
  })

  test('the nearest name is near, or none is named', () => {
    expect(nearest('indentity', ['identity', 'match'])).toBe('identity')
    expect(nearest('colour', ['identity', 'match'])).toBeUndefined()
    expect(nearest('4.9', ['9.9', '0.0'])).toBe('9.9')
    expect(nearest('4.9', ['0.0'])).toBeUndefined()
    expect(nearest('--dry', ['--drop', '--dry-run'])).toBe('--dry-run')
  })
})
