import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Doc } from '../../../src/core/formats/doc.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { commentChanges } from '../../../src/core/grouping/comment-changes.ts'
import { mainValues } from '../../../src/core/grouping/main-values.ts'
import { nameFacts } from '../../../src/core/grouping/name-facts.ts'
import { commonPath, familyOf } from '../../../src/core/grouping/placed.ts'
import { keyedValues } from '../../../src/core/identity/keyed-values.ts'
import { valueAtKey } from '../../../src/core/keys/find-key.ts'

function doc(format: FormatName, source: string): Doc {
  const known = formatNamed(format)
  const reader = known.reader([source])
  const { tree, problems } = reader.read(source)
  expect(problems).toEqual([])
  return new Doc(known, tree, reader)
}

describe('the value at a key', () => {
  const XML = '<game build="77"><about><version>4.2</version></about><list><a/><a/></list></game>'
  const JSON_TEXT = '{ "about": { "version": "4.2", "build": 77 }, "odd/name": "x", "list": [1] }'
  const INI = 'release = 4.2\n[About]\nVersion = 4.3\n'
  test.each<[FormatName, string, string, string | undefined]>([
    ['xml', XML, 'about/version', '4.2'],
    ['xml', XML, '@build', '77'],
    ['xml', XML, 'about', undefined],
    ['xml', XML, 'about/none', undefined],
    ['xml', XML, 'list/a[0]', undefined],
    ['json', JSON_TEXT, 'about/version', '4.2'],
    ['json', JSON_TEXT, 'about/build', '77'],
    ['json', JSON_TEXT, '"odd/name"', 'x'],
    ['json', JSON_TEXT, 'about', undefined],
    ['json', JSON_TEXT, 'list', undefined],
    ['ini', INI, 'release', '4.2'],
    ['ini', INI, 'about/version', '4.3'],
    ['ini', INI, 'About/none', undefined],
  ])('%s: %s at %s', (format, source, key, value) => {
    expect(valueAtKey(doc(format, source), key)).toBe(value)
  })
})

describe('comments that an update changed', () => {
  const finds = (...lines: string[]): Doc => doc('xml', `<finds>\n${lines.join('\n')}\n</finds>\n`)

  test('rewritten ones are paired where they stand, others came or went, moved ones are not told', () => {
    const old = finds(
      '<!-- hours -->',
      '<a/>',
      '<!-- stays -->',
      '<b/>',
      '<!-- goes -->',
      '<c/>',
      '<!-- stays, too -->',
      '<!-- moves -->',
    )
    const fresh = finds(
      '<!-- moves -->',
      '<!-- dives now -->',
      '<a/>',
      '<!-- stays -->',
      '<b/>',
      '<c/>',
      '<!-- stays, too -->',
      '<d/>',
      '<!-- comes -->',
    )
    expect(commentChanges(old, fresh)).toEqual([
      { old: 'hours', new: 'dives now', line: 3 },
      { old: 'goes', new: null, line: 6 },
      { old: null, new: 'comes', line: 10 },
    ])
  })

  test('only the words count, and equal documents have none', () => {
    const loose = finds('<!--  at   low\n tide -->', '<a/>')
    expect(commentChanges(finds('<!-- at low tide -->', '<a/>'), loose)).toEqual([])
  })

  test('each comment that one side alone has is told once, in INI and JSON, too', () => {
    const words = fc.uniqueArray(fc.stringMatching(/^[a-z]{3,8}$/), { maxLength: 8 })
    fc.assert(
      fc.property(words, words, fc.constantFrom('ini', 'json'), (before, after, format) => {
        const write = (all: readonly string[]): string =>
          format === 'ini'
            ? all.map((word, i) => `; ${word}\nk${i} = 1\n`).join('')
            : `[\n${all.map((word) => `// ${word}\n1,\n`).join('')}0]`
        const changes = commentChanges(doc(format, write(before)), doc(format, write(after)))
        const gone = changes.flatMap(({ old }) => (old === null ? [] : [old]))
        const come = changes.flatMap(({ new: fresh }) => (fresh === null ? [] : [fresh]))
        // a word that both have may be told as moved away and back only if its place among others changed
        expect(gone.filter((word) => !after.includes(word)).sort()).toEqual(
          before.filter((word) => !after.includes(word)).sort(),
        )
        expect(come.filter((word) => !before.includes(word)).sort()).toEqual(
          after.filter((word) => !before.includes(word)).sort(),
        )
        expect(gone.filter((word) => after.includes(word))).toEqual([])
      }),
    )
  })
})

describe('what is told of an entry that came', () => {
  test.each<[FormatName, string, string, string]>([
    [
      'xml',
      '<find id="lamp"><name>Lamp</name><worth>60</worth></find>',
      'lamp',
      'worth 60, name Lamp',
    ],
    [
      'json',
      '{ "id": "purser", "pay": 20, "title": "Purser", "kit": [1] }',
      'purser',
      'pay 20, title Purser',
    ],
    ['ini', '[raft]\ncrew = 1\nhold = 2\n', 'raft', 'crew 1, hold 2'],
    ['json', '[1, 2]', '0', ''],
    ['xml', '<broken', 'x', ''],
  ])('%s: %s', (format, source, identity, said) => {
    const values = mainValues(formatNamed(format), source, identity, 2)
    expect(values.map(({ name, value }) => `${name} ${value}`).join(', ')).toBe(said)
  })
})

describe('names before and after', () => {
  test('places go through lists, and a star is any name', () => {
    const old = doc(
      'json',
      '{ "finds": [{ "id": "a", "worth": 1 }], "boats": { "skiff": { "hold": 2 } } }',
    )
    const fresh = doc(
      'json',
      '{ "finds": [{ "id": "a", "fragile": 1 }, { "id": "b", "fragile": 2 }, {}] }',
    )
    const facts = nameFacts(old, fresh)
    expect(
      ['finds/worth', 'finds/fragile', 'boats/*/hold', 'boats/*/mast'].map(facts.isKnown),
    ).toEqual([true, false, true, false])
    expect([facts.count('finds/fragile'), facts.count('finds')]).toEqual([2, 3])
    const xml = nameFacts(
      doc('xml', '<f><find a="1"/></f>'),
      doc('xml', '<f><find b="1"/><find b="2"/></f>'),
    )
    expect([xml.isKnown('find/@a'), xml.isKnown('find/@b'), xml.count('find/@b')]).toEqual([
      true,
      false,
      2,
    ])
  })
})

describe('values by key', () => {
  test('entries go by one identity in all documents, so a value that another entry has is no match', () => {
    const before = doc('xml', '<f><find id="a"><w>1</w></find><find id="b"><w>2</w></find></f>')
    const swapped = doc('xml', '<f><find id="b"><w>1</w></find><find id="a"><w>2</w></find></f>')
    const [one, other] = keyedValues([before, swapped])
    const shared = [...(one ?? [])]
      .filter(([key]) => (other?.times(key) ?? 0) > 0)
      .map(([key]) => key)
    expect(shared.sort()).toEqual(['find[a]/@id=a', 'find[b]/@id=b'])
  })
})

test('files that are alike by their paths, and what those share', () => {
  expect(familyOf('finds/5/1.json')).toBe(familyOf('finds/9/27.json'))
  expect(familyOf('finds/5/1.json')).not.toBe(familyOf('finds/1.json'))
  expect(familyOf('a.json')).not.toBe(familyOf('rules/a.json'))
  expect(commonPath(['finds/5/1.json'])).toBe('finds/5/1.json')
  expect(commonPath(['finds/5/1.json', 'finds/9/27.json'])).toBe('finds/**/*.json')
  expect(commonPath(['finds/1.json', 'finds/2.json'])).toBe('finds/*.json')
  expect(commonPath(['a.ini', 'b.json'])).toBe('*')
})
