import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { readDoc } from '../../../src/core/formats/doc.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { identityText, parseIdentity } from '../../../src/core/identity/expression.ts'
import { alignEqual, costOf } from '../../../src/core/likeness/align.ts'
import { displaced } from '../../../src/core/match/order.ts'

function carry(
  name: FormatName,
  texts: [string, string, string],
  identity?: Record<string, string>,
): CarriedText {
  const config = identity === undefined ? {} : { identity: new Map(Object.entries(identity)) }
  return carryText(texts, { format: formatNamed(name), path: 'a', ...config })
}

const lots = ['fr', 'nl', 'da', 'sv'].map((lang) => `<n lang="${lang}">x</n>\n`).join('')

/** What was chosen to tell entries apart, where nothing is said. */
function chosen(name: FormatName, text: string): Record<string, string> {
  const edited = text.replace('5', '6')
  return Object.fromEntries(carry(name, [text, edited, `${text} `]).identities)
}

describe('an identity is inferred', () => {
  test('from an attribute, a child, a member, and from one level down', () => {
    expect(chosen('xml', '<a><f id="x" n="5"/><f id="y" n="5"/></a>')).toEqual({ f: '@id' })
    expect(
      chosen('xml', '<a><f><name>x</name><n>5</n></f><f><name>y</name><n>5</n></f></a>'),
    ).toEqual({ f: 'name' })
    expect(chosen('json', '{"r": [{"key": "x", "n": 5}, {"key": "y", "n": 5}]}')).toEqual({
      r: 'key',
    })
    expect(
      chosen(
        'xml',
        '<a><f><about><name>x</name></about><n>5</n></f><f><about><name>y</name></about><n>5</n></f><f><about><name>z</name></about><n>4</n></f></a>',
      ),
    ).toEqual({ f: 'about/name' })
  })

  test('a customary name before a number that happens to differ', () => {
    expect(
      chosen('xml', '<a><f depth="1" name="x" n="5"/><f depth="2" name="y" n="5"/></a>'),
    ).toEqual({ f: '@name' })
  })

  test('from a pair, where neither of the two tells entries apart', () => {
    const text =
      '<a><f name="x" lang="de" n="5"/><f name="x" lang="en" n="5"/><f name="y" lang="de" n="5"/></a>'
    expect(chosen('xml', text)).toEqual({ f: '@name|@lang' })
    const { changes } = carry('xml', [text, text.replace('en" n="5', 'en" n="6'), text])
    expect(changes.map((change) => change.key)).toEqual(['f[x|en]/@n'])
  })

  test('from the first item of small arrays that are tuples', () => {
    const text = '{"steps": [["CUT", 5], ["SAW", 2], ["DRILL", 3]]}'
    const {
      conflicts,
      text: result,
      identities,
    } = carry('json', [
      text,
      text.replace('2', '4'),
      text.replace('["CUT", 5]', '["OIL", 1], ["CUT", 7]'),
    ])
    expect(identities.get('steps')).toBe('[0]')
    expect(conflicts).toEqual([])
    expect(result).toBe('{"steps": [["OIL", 1], ["CUT", 7], ["SAW", 4], ["DRILL", 3]]}')
  })

  test('not from a running number, though every entry has one', () => {
    const list = (...names: string[]): string =>
      `<a>${names.map((name, i) => `<f id="${i}" name="${name}" worth="${name.length * 7}"/>`).join('')}</a>`
    const { conflicts, identities, changes } = carry('xml', [
      list('lamp', 'bell', 'anchor'),
      list('oar', 'lamp', 'bell', 'anchor'),
      list('lamp', 'bell', 'anchor')
        .replace('worth="28" name="bell"', '')
        .replace('worth="28"', 'worth="90"'),
    ])
    expect(identities.get('f')).toBe('@name')
    expect(conflicts).toEqual([])
    expect(changes.filter((change) => change.side === 'mine').map((change) => change.key)).toEqual([
      'f[lamp]/@worth',
    ])
  })

  describe('not from numbers that a side gave anew', () => {
    type Entry = readonly [name: string, depth: number]
    const numbered = (entries: readonly Entry[], prefix = ''): string =>
      `[${entries.map(([name, depth], i) => `{"id": ${prefix === '' ? i : `"${prefix}${i}"`}, "name": "${name}", "depth": ${depth}}`).join(',\n')}]`
    const old = Array.from({ length: 30 }, (_, i): Entry => [`find-${i}`, 500 - i])
    const mine = old.map((entry, i): Entry => (i === 28 ? [entry[0], 7] : entry))
    const fresh = (at: number): Entry[] => old.toSpliced(at, 0, ['storm-glass', 3])

    test.each([1, 15, 25, 28])('behind an entry put in at %i', (at) => {
      for (const prefix of ['', 'f']) {
        const { text, conflicts } = carry('json', [
          numbered(old, prefix),
          numbered(fresh(at), prefix),
          numbered(mine, prefix),
        ])
        expect(conflicts).toEqual([])
        expect(text).toBe(numbered(mine.toSpliced(at, 0, ['storm-glass', 3]), prefix))
      }
    })

    test('though they told the entries in an earlier carry, and not where they still do', () => {
      const chosenAfter = (next: readonly Entry[]): string | undefined =>
        carryText([numbered(old), numbered(next), numbered(mine)], {
          format: formatNamed('json'),
          path: 'a',
          identityBefore: new Map([['', 'id']]),
        }).identities.get('')
      expect(chosenAfter(fresh(25))).toBe('name')
      expect(chosenAfter(old.map(([name, depth]): Entry => [name, depth + 1]))).toBe('id')
      expect(chosenAfter([...old, ['storm-glass', 3]])).toBe('id')
    })

    test('of entries that hold nothing but a number and a name, however many', () => {
      const names = Array.from({ length: 72 }, (_, i) => `find-${i}`)
      const list = (all: readonly string[]): string =>
        JSON.stringify(all.map((name, id) => ({ id, name })))
      const texts = [names, names.toSpliced(3, 0, 'storm-glass'), names.toSpliced(70, 1)].map(list)
      expect(carry('json', texts as [string, string, string]).identities.get('')).toBe('name')
    })

    const list = (entries: readonly object[]): string =>
      `[\n${entries.map((entry) => JSON.stringify(entry)).join(',\n')}\n]`
    type Spot = readonly [x: number, y: number, more?: object]
    const spots = (all: readonly Spot[], prefix = ''): string =>
      list(
        all.map(([x, y, more], i) => ({ id: prefix === '' ? i : `${prefix}${i}`, x, y, ...more })),
      )

    test('and a number that others were given says nothing of them', () => {
      const counted = (from: number): string =>
        list(old.map(([name, depth], i) => ({ id: 100 + i, name, depth, stateId: from + i * 3 })))
      const mineOf = counted(10).replace('"depth":472', '"depth":7')
      const { identities, conflicts } = carry('json', [counted(10), counted(13), mineOf])
      expect([identities.get(''), conflicts]).toEqual(['id', []])
    })

    test('nor does what several hold', () => {
      const all: Spot[] = [
        [0, 0],
        [0, 0],
        [0, 0],
        [5, 5],
        [7, 7],
        [8, 1],
      ]
      const next: Spot[] = [
        [0, 0],
        [0, 0],
        [9, 9],
        [5, 5],
        [0, 0],
        [8, 1],
      ]
      const own: Spot[] = all.with(5, [8, 2])
      const { identities } = carry('json', [spots(all), spots(next), spots(own)])
      expect(identities.get('')).toBe('id')
    })

    const five: Spot[] = [
      [12, 480],
      [77, 310],
      [140, 95],
      [203, 666],
      [255, 21],
    ]

    test('though vanilla changed an entry, too: it is known by what few others hold', () => {
      const next: Spot[] = five.toSpliced(1, 1, [50, 51], [77, 999])
      const { text, conflicts } = carry('json', [
        spots(five, 'b-'),
        spots(next, 'b-'),
        spots(five.with(1, [77, 310, { lit: true }]), 'b-'),
      ])
      expect(conflicts).toEqual([])
      expect(text).toBe(spots(next.with(2, [77, 999, { lit: true }]), 'b-'))
    })

    test('and an entry that has the number of one that is gone is another', () => {
      const { conflicts } = carry('json', [
        spots(five, 'b-'),
        spots(five.toSpliced(0, 1, [99, 1]).toSpliced(3, 0, [50, 51]), 'b-'),
        spots(five.with(0, [12, 7]), 'b-'),
      ])
      expect(conflicts.map(({ kind }) => kind)).toEqual(['gone-in-vanilla'])
    })

    test('and where entries are equal but for their numbers the list is asked', () => {
      const all: Spot[] = [
        [1, 1],
        [2, 1],
        [2, 2],
        [2, 1],
        [0, 2],
        [1, 0],
        [1, 2],
        [1, 0],
        [2, 1],
        [0, 1],
        [2, 0],
      ]
      const { conflicts } = carry('json', [
        spots(all),
        spots([...all.toSpliced(2, 1).toSpliced(5, 1), [0, 1]]),
        spots(all.with(5, [1, 0, { lit: true }])),
      ])
      expect(conflicts.map(({ kind, key }) => `${kind} ${key}`)).toEqual(['two-values '])
    })

    test('but from those that stay while names or values change', () => {
      const renamed = old.map(([name, depth], i): Entry => [i < 3 ? `old-${name}` : name, depth])
      const exchanged = old.map(([name], i): Entry => [name, (old[i ^ 1] ?? old[i] ?? ['', 0])[1]])
      for (const next of [renamed, exchanged])
        expect(carry('json', [numbered(old), numbered(next), numbered(mine)]).identities).toEqual(
          new Map([['', 'id']]),
        )
    })
  })

  test('though the first entry lacks what all others have; that one is found by its place', () => {
    const names = (plain: string, german: string): string =>
      `<a>\n<n>${plain}</n>\n<n lang="de">${german}</n>\n<n lang="en">Lamp</n>\n</a>\n`
    const { identities, conflicts, text } = carry('xml', [
      names('lamp', 'Lampe').replace('</a>', `${lots}</a>`),
      names('a lamp', 'Lampe').replace('</a>', `${lots}</a>`),
      names('my light', 'Leuchte').replace('</a>', `${lots}</a>`),
    ])
    expect(identities.get('n')).toBe('@lang')
    expect(conflicts.map(({ kind }) => kind)).toEqual(['two-values'])
    expect(text).toBe(names('my light', 'Leuchte').replace('</a>', `${lots}</a>`))
  })

  test('for each place of its own', () => {
    const text =
      '<a><w id="1" n="5"><h find="x"/><h find="y"/></w><w id="2"><h find="x"/><h find="z"/></w></a>'
    const moved = text.replace('<h find="x"/><h find="y"/>', '<h find="y"/><h find="x" n="1"/>')
    expect(
      Object.fromEntries(carry('xml', [text, moved, text.replace('5', '6')]).identities),
    ).toEqual({ w: '@id', 'w/h': '@find' })
  })

  test('though one of many lacks it, or has it twice', () => {
    const entry = (id: string, n: number): string => `<f id="${id}" n="${n}"/>`
    const many = Array.from({ length: 40 }, (_, i) => entry(`x${i}`, 1)).join('')
    const text = `<a>${many}</a>`
    const twice = `<a>${many}${entry('x3', 9)}</a>`
    const {
      conflicts,
      changes,
      problems,
      text: result,
    } = carry('xml', [text, text.replace(entry('x3', 1), entry('x3', 2)), twice])
    expect(conflicts).toEqual([])
    expect(changes.map(({ side, kind, key }) => `${side} ${kind} ${key}`)).toEqual([
      'mine added f[x3]~2',
      'vanilla changed f[x3]/@n',
    ])
    expect(problems.map((problem) => problem.code)).toEqual(['carry/duplicate-key'])
    expect(result).toContain(entry('x3', 2))
    expect(result).toContain(entry('x3', 9))
  })

  test('and what the config says comes before', () => {
    const text = '<a><f id="x" name="p" n="5"/><f id="y" name="q" n="5"/></a>'
    const { identities } = carry('xml', [text, text.replace('5', '6'), `${text} `], { f: '@name' })
    expect(identities.get('f')).toBe('@name')
  })
})

describe('entries without identity', () => {
  test('are found again by what they hold', () => {
    const entries = ['"a": 1, "b": 2, "c": 3', '"a": 1, "b": 5, "c": 6', '"a": 1, "b": 2, "c": 9']
    const list = (...items: string[]): string => `[${items.map((item) => `{${item}}`).join(', ')}]`
    const { text, conflicts } = carry('json', [
      list(...entries),
      list('"a": 1, "b": 2, "c": 4', '"a": 7, "b": 8, "c": 9', ...entries.slice(1)),
      list(entries[0] ?? '', '"a": 1, "b": 5, "c": 60', entries[2] ?? ''),
    ])
    expect(conflicts).toEqual([])
    expect(text).toBe(
      list(
        '"a": 1, "b": 2, "c": 4',
        '"a": 7, "b": 8, "c": 9',
        '"a": 1, "b": 5, "c": 60',
        entries[2] ?? '',
      ),
    )
  })

  test('that stand alone in one place are one from a quarter of their values on', () => {
    const list = (a: number, b: number): string => `[{"a": ${a}, "b": ${b}, "c": 0}]`
    const { text, conflicts } = carry('json', [list(1, 1), list(2, 1), list(1, 3)])
    expect([text, conflicts]).toEqual([list(2, 3), []])
  })

  test('that moved and changed are found again', () => {
    const list = (...items: string[]): string => `[\n${items.join(',\n')}\n]`
    const item = (a: number, b: number): string => `{"a": ${a}, "b": ${b}, "c": ${a}, "d": ${a}}`
    const { text, conflicts } = carry('json', [
      list(item(1, 1), item(2, 2), item(3, 3)),
      list(item(3, 9), item(1, 1), item(2, 2)),
      list(item(1, 1), item(2, 5), item(3, 3)),
    ])
    expect([text, conflicts]).toEqual([list(item(3, 9), item(1, 1), item(2, 5)), []])
  })

  test('values of several types in one array are told apart by their place', () => {
    const call = (name: string, fog: string): string => `{"argv": [{"ref": "${name}"}, ${fog}]}`
    const { conflicts, text } = carry('json', [
      call('sea', 'true'),
      call('sea', '"thick"'),
      call('bay', 'false'),
    ])
    expect(conflicts.map(({ key, kind }) => [key, kind])).toEqual([['argv', 'two-values']])
    expect(text).toBe(call('bay', 'false'))
  })

  test('a dropped and an added one of one kind are a conflict, not a guess', () => {
    const { conflicts, text } = carry('json', ['["a"]', '["a", "a"]', '[]'])
    expect(conflicts.map(({ kind }) => kind)).toEqual(['two-values'])
    expect(text).toBe('[]')
  })
})

test('what both add at one place of a list has a key each; mine keeps its index', () => {
  const { changes } = carry('json', ['{"a": ["x"]}', '{"a": ["x", "n"]}', '{"a": ["x", "m"]}'])
  expect(changes.map(({ key, new: fresh, mine }) => [key, fresh, mine]).sort()).toEqual([
    ['a[1]', null, 'm'],
    ['a[1]~2', 'n', null],
  ])
})

describe('sequences', () => {
  test('of longest common subsequences the one of the most even gaps counts, then of the fewest', () => {
    const aligned = (a: string, b: string): string =>
      alignEqual([...a], [...b])
        .map(([i, j]) => `${i}${j}`)
        .join(' ')
    expect(aligned('eer', 'ler')).toBe('11 22')
    expect(aligned('waws', 'aws')).toBe('10 21 32')
    expect(aligned('ttftf', 'tfftf')).toBe('00 22 33 44')
    expect(aligned('eee', 'exee')).toBe('00 12 23')
    expect(aligned('abc', 'cab')).toBe('01 12')
  })

  test('what is alone in both is fixed, and many that are the same take no time', () => {
    const many = Array.from({ length: 3000 }, (_, i) => (i % 3 === 0 ? 'a' : 'b'))
    const pairs = alignEqual(many, [...many.slice(0, 1000), 'own', ...many.slice(1000)])
    expect(pairs).toHaveLength(3000)
    expect(pairs[1500]).toEqual([1500, 1501])
    expect(costOf(pairs, 3000, 3001)).toBe(1)
  })

  test('the fewest entries are taken for moved', () => {
    expect(displaced([1, 2, 3, 4, 5], [2, 3, 4, 5, 1])).toEqual([1])
    expect(displaced([1, 2, 3], [3, 2, 1])).toHaveLength(2)
    expect(displaced([1, 2, 3], [1, 2, 3])).toEqual([])
  })

  test('moves are told once, and a clash of orders as a note', () => {
    const list = (...ids: string[]): string =>
      `<a>${ids.map((id) => `<f id="${id}"/>`).join('')}</a>`
    const { changes } = carry('xml', [
      list('p', 'q', 'r'),
      list('r', 'p', 'q'),
      list('p', 'q', 'r'),
    ])
    expect(changes).toMatchObject([{ key: 'f[r]', kind: 'moved', side: 'vanilla' }])
    const clash = carry('xml', [list('p', 'q', 'r'), list('r', 'p', 'q'), list('q', 'p', 'r')])
    expect(clash.text).toBe(list('q', 'p', 'r'))
    expect(clash.problems.map((problem) => problem.code)).toEqual(['carry/order-kept'])
  })
})

describe('an identity is read', () => {
  const words = [
    '',
    ' ',
    'lamp',
    'lamp ',
    ' lamp',
    'Lamp',
    'lamp 2',
    'ein Boot',
    'brücke',
    '\u00a0x',
    '\u000b',
    '&',
    '<',
    '\\',
    '"',
    '5',
    '5.0',
  ]
  const escaped = (word: string): string =>
    word.replace(/[&<"]/g, (each) => `&#${each.charCodeAt(0)};`).replace('\u000b', '&#9;')
  const forms: [FormatName, string, (word: string) => string][] = [
    ['xml', '@id', (word) => `<f id="${escaped(word)}"/>`],
    ['xml', 'of/id', (word) => `<f><of><id>${escaped(word)}</id></of></f>`],
    ['xml', 'id', (word) => `<f><id>${escaped(word).replace('lamp', '<![CDATA[lamp]]>')}</id></f>`],
    ['xml', 'id', (word) => `<f><id><!-- which -->${escaped(word)}</id></f>`],
    ['json', 'id', (word) => `{"a": 1, "id": ${JSON.stringify(word)}}`],
    ['json', 'id', (word) => `{"id": ${/^5/.test(word) ? word : JSON.stringify(word)}}`],
    ['json', 'id|a', (word) => `{"a": "x", "id": ${JSON.stringify(word)}}`],
  ]

  test.each(forms)('however it is written (%s, %s)', (name, expression, write) => {
    const identity = parseIdentity(expression)
    for (const word of words) {
      const text = name === 'xml' ? `<a>${write(word)}</a>` : `[${write(word)}]`
      const doc = readDoc(formatNamed(name), text)
      if (doc === undefined) throw new Error(`${text} is not read`)
      const [entry = -1] = doc.children(doc.root())
      const wanted = word.replace('\u000b', name === 'xml' ? '\t' : '\u000b').trim()
      const isNumber = name === 'json' && /^5/.test(word) && !write(word).includes('"5')
      const value = identityText(doc, entry, identity)?.split('\0')[0]
      expect(value).toBe(wanted === '' ? undefined : isNumber ? '5e0' : wanted)
    }
  })
})
