import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { Kind } from '../../../src/core/document/kind.ts'
import type { DialectSettings } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

const ini = formatNamed('ini')

function carry(
  old: string,
  fresh: string,
  mine: string,
): { text: string | undefined; open: string[]; codes: string[] } {
  const { text, conflicts, problems } = carryText([old, fresh, mine], {
    format: ini,
    path: 'a.ini',
  })
  return { text, open: conflicts.map((each) => each.key), codes: problems.map((each) => each.code) }
}

const CASES: [
  title: string,
  dialect: string,
  old: string,
  fresh: string,
  mine: string,
  result: string,
][] = [
  [
    'names without a value',
    'names without value',
    'fog\n[sea]\na = 1\n',
    'fog\nhail\n[sea]\na = 2\n',
    'fog\n[sea]\na = 1\ncalm\n',
    'fog\nhail\n[sea]\na = 2\ncalm\n',
  ],
  [
    'no sections, name and value parted by a blank',
    'name value',
    'swell 3\ntide half\n',
    'swell 4\ntide half\nfog on\n',
    'swell 3\ntide full\n',
    'swell 4\ntide full\nfog on\n',
  ],
  [
    'no sections, with a colon',
    'name: value',
    'swell: 3\nlink: http://x?a=b\n',
    'swell: 4\nlink: http://x?a=b\n',
    'swell: 3\nlink: http://y?a=c\n',
    'swell: 4\nlink: http://y?a=c\n',
  ],
  [
    'comments after values, where vanilla has them',
    'comments after values',
    'a = 1 ; in metres\nb = 2 ; in knots\n',
    'a = 3 ; in metres\nb = 2 ; in knots\n',
    'a = 1 ; in feet\nb = 5 ; in knots\n',
    'a = 3 ; in feet\nb = 5 ; in knots\n',
  ],
  [
    'semicolons in values, where it has none',
    '',
    'path = C:\\sea;D:\\sea ; E:\\sea\n',
    'path = C:\\sea;D:\\sea ; E:\\sea\nb = 1\n',
    'path = C:\\pier;D:\\sea ; E:\\sea\n',
    'path = C:\\pier;D:\\sea ; E:\\sea\nb = 1\n',
  ],
  [
    'a value that goes on after a backslash',
    '',
    'fish = cod, \\\n  eel, \\\n  ling\na = 1\n',
    'fish = cod, \\\n  eel, \\\n  ling, ray\na = 1\n',
    'fish = cod, \\\n  eel, \\\n  ling\na = 2\n',
    'fish = cod, \\\n  eel, \\\n  ling, ray\na = 2\n',
  ],
  [
    'a path that ends in a backslash',
    '',
    'dir = C:\\sea\\\na = 1\n',
    'dir = C:\\sea\\\na = 2\n',
    'dir = D:\\sea\\\na = 1\n',
    'dir = D:\\sea\\\na = 2\n',
  ],
  [
    'a value in lines that are indented further',
    '',
    'fish =\n  cod\n  eel\na = 1\n',
    'fish =\n  cod\n  eel\na = 2\n',
    'fish =\n  cod\n  eel\n  ray\na = 1\n',
    'fish =\n  cod\n  eel\n  ray\na = 2\n',
  ],
  [
    'a table in braces',
    'values in braces over lines',
    'box = {\n  x = 1,\n  y = 2\n}\na = 1\n',
    'box = {\n  x = 1,\n  y = 2\n}\na = 2\n',
    'box = {\n  x = 1,\n  y = 3\n}\na = 1\n',
    'box = {\n  x = 1,\n  y = 3\n}\na = 2\n',
  ],
  [
    'a quoted value over lines',
    'quoted values over lines',
    'word = "one\ntwo"\na = 1\n',
    'word = "one\ntwo"\na = 2\n',
    'word = "one\nthree"\na = 1\n',
    'word = "one\nthree"\na = 2\n',
  ],
  [
    'a comment and a blank line inside a value over lines',
    '',
    'fish =\n  cod\n\n  # from the deep\n  eel\na = 1\n',
    'fish =\n  cod\n\n  # from the deep\n  eel\na = 2\n',
    'fish =\n  cod\n\n  # from the deep\n  ray\na = 1\n',
    'fish =\n  cod\n\n  # from the deep\n  ray\na = 2\n',
  ],
  [
    'a further line of a value that begins with the separator',
    '',
    'fish = cod\n  = eel\na = 1\n',
    'fish = cod\n  = eel\na = 2\n',
    'fish = cod\n  = ray\na = 1\n',
    'fish = cod\n  = ray\na = 2\n',
  ],
  [
    'further lines of a value that are texts in quotes, with a separator in the comment behind them',
    '',
    'reefs =\n "North", ; (=Old Bank)\n "South", ; Bell\na = 1\n',
    'reefs =\n "North", ; (=Old Bank)\n "South", ; Bell\na = 2\n',
    'reefs =\n "North", ; (=Old Bank)\n "East", ; Bell\na = 1\n',
    'reefs =\n "North", ; (=Old Bank)\n "East", ; Bell\na = 2\n',
  ],
  [
    'a brace on the next line, and a comment with a brace inside',
    'values in braces over lines',
    'box =\n{\n  x = 1,\n  ; } of 4.1\n  y = 2\n}\na = 1\n',
    'box =\n{\n  x = 1,\n  ; } of 4.1\n  y = 2\n}\na = 2\n',
    'box =\n{\n  x = 1,\n  ; } of 4.1\n  y = 3\n}\na = 1\n',
    'box =\n{\n  x = 1,\n  ; } of 4.1\n  y = 3\n}\na = 2\n',
  ],
  [
    'prefixed names',
    '',
    '+fish = cod\n-fish = eel\n',
    '+fish = cod\n+fish = ray\n-fish = eel\n',
    '+fish = cod\n-fish = eel\n-fish = ling\n',
    '+fish = cod\n+fish = ray\n-fish = eel\n-fish = ling\n',
  ],
  [
    'a section that is there twice',
    '',
    '[boat]\na = 1\n[boat]\na = 2\n',
    '[boat]\na = 1\n[boat]\na = 3\n',
    '[boat]\na = 5\n[boat]\na = 2\n',
    '[boat]\na = 5\n[boat]\na = 3\n',
  ],
  [
    'indented names',
    '',
    '[boat]\n  a = 1\n  b = 2\n',
    '[boat]\n  a = 1\n  c = 9\n  b = 2\n',
    '[boat]\n  a = 4\n  b = 2\n',
    '[boat]\n  a = 4\n  c = 9\n  b = 2\n',
  ],
  [
    '// comments',
    '// comments',
    '// one\na = 1\n',
    '// two\na = 1\nb = 1\n',
    '// one\na = 3\n',
    '// two\na = 3\nb = 1\n',
  ],
  [
    'lone CR as line end',
    '',
    'a = 1\rb = 2\r',
    'a = 3\rb = 2\r',
    'a = 1\rb = 4\r',
    'a = 3\rb = 4\r',
  ],
]

describe('dialects are inferred from vanilla', () => {
  test.each(CASES)('%s', (_title, dialect, ...[old, fresh, mine, result]) => {
    expect(ini.reader([old, fresh]).dialect).toBe(dialect)
    expect(carry(old, fresh, mine)).toMatchObject({ text: result, open: [] })
  })

  test('what vanilla does not have is an error in mine', () => {
    expect(carry('a = 1\n', 'a = 2\n', 'a = 1\nlost line\n').codes).toEqual(['ini/no-separator'])
    expect(carry('a = "1"\n', 'a = "2"\n', 'a = "1\n').codes).toEqual(['ini/unclosed-quote'])
    expect(carry('a = {\n1\n}\n', 'a = {\n2\n}\n', 'a = {\n1\n').codes).toEqual([
      'ini/unclosed-brace',
    ])
  })
})

describe('names that differ by capitals alone', () => {
  test('are one, with a warning', () => {
    expect(carry('[Sea]\nSwell = 3\n', '[Sea]\nSwell = 4\n', '[sea]\nswell = 3\n')).toEqual({
      text: '[sea]\nswell = 4\n',
      open: [],
      codes: ['carry/other-capitals', 'carry/other-capitals'],
    })
  })

  test('are two where one file has both', () => {
    expect(carry('a = 1\nA = 2\n', 'a = 1\nA = 3\n', 'a = 5\nA = 2\n')).toMatchObject({
      text: 'a = 5\nA = 3\n',
      open: [],
      codes: [],
    })
  })
})

type Settings = NonNullable<DialectSettings['ini']>

describe('what the config says of a dialect', () => {
  const read = (source: string, settings: Settings): string[] => {
    const { tree, problems } = ini.reader([source], { ini: settings }).read(source)
    const properties = [...Array(tree.length).keys()].filter(
      (node) => tree.kind(node) === Kind.Property,
    )
    return [
      ...problems.map(({ code }) => code),
      ...properties.map((node) => `${ini.nodeName(tree, node)}: ${ini.leafValue(tree, node)}`),
    ]
  }

  test.each([
    ['a = 1 ; x\nb = 2 ; y\n', { inlineComments: false }, ['a: 1 ; x', 'b: 2 ; y']],
    ['a = 1 ; x\n', { inlineComments: true }, ['a: 1']],
    ['a b=c d\n', { separators: [' '] }, ['a: b=c d']],
    ['a:b = c\n', { separators: [':'] }, ['a: b = c']],
    ['fog\na = 1\n', { bareNames: false }, ['ini/no-separator', 'a: 1']],
    ['//a = 1\nb = 1\n', { slashComments: false }, ['//a: 1', 'b: 1']],
    ['a = {\nb = 1\n', { braces: false, openQuotes: 'literal' }, ['a: {', 'b: 1']],
    ['a = "x\nb"\n', { openQuotes: 'lines' }, ['a: "x\nb"']],
    ['a = "x\nb = "\n', { openQuotes: 'literal' }, ['a: "x', 'b: "']],
  ] as [string, Settings, string[]][])('%j with %j is %j', (source, said, told) => {
    expect(read(source, said)).toEqual(told)
  })
})

test('line ends of several kinds are form: what is dropped leaves none of them behind', () => {
  const carry = (old: string, fresh: string, mine: string): string | undefined =>
    carryText([old, fresh, mine], { format: ini, path: 'rules/sea.ini' }).text
  expect(carry('\n[sea]\nswell = 3\n', '', '\r\n[sea]\nswell = 3\r\n')).toBe('')
  expect(carry('\n[sea]\nswell = 3\n', '[sea]\n', '\r\n[sea]\nswell = 3')).toBe('[sea]')
})

// the lines behind a header, with | for a line end, and those of them that belong to the section
test.each([
  ['words after a blank line', 'a=1||; words', 'a=1'],
  ['words without a blank line', 'a=1|; words', 'a=1|; words'],
  ['a property in comments after a blank line', 'a=1||;b=2', 'a=1||;b=2'],
  ['words above such a property', 'a=1||; words||;b=2', 'a=1||; words||;b=2'],
  ['words below such a property', 'a=1||;b=2||; words', 'a=1||;b=2'],
  ['words above a live property', 'a=1||; words||b=2', 'a=1||; words||b=2'],
  ['a section with nothing but comments', '; words||;b=2', '; words||;b=2'],
  ['comments directly above the next section', 'a=1||;b=2|[sea]', 'a=1'],
  ['comments above those', 'a=1||;b=2||; words|[sea]', 'a=1||;b=2'],
  ['a section in comments', 'a=1|;[reef]|;b=2', 'a=1'],
  ['properties above a section in comments', 'a=1||;c=3|;[reef]|;b=2', 'a=1||;c=3'],
  ['properties below a section in comments', 'a=1||;[reef]||;b=2', 'a=1'],
  [
    'a section that is an example in words',
    'a=1|; as:|;   [reef]|; or so||;b=2',
    'a=1|; as:|;   [reef]|; or so||;b=2',
  ],
  ['a blank comment below a section in comments', 'a=1|; [reef]|;|; b=2', 'a=1'],
])('where a section of INI ends: %s', (_, lines, own) => {
  const header = '[dive]\n'
  const source = `${header}${lines.replaceAll('|', '\n')}\n`
  const { tree } = ini.reader([source]).read(source)
  const nodes = [...Array(tree.length).keys()]
  const section = nodes.find((node) => tree.kind(node) === Kind.Section) ?? -1
  const text = source.slice(header.length, tree.end(section)).trimEnd()
  expect(text.replaceAll('\n', '|')).toBe(own)
})
