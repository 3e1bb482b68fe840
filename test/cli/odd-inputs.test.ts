import { spawnSync } from 'node:child_process'
import {
  chmodSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  statSync,
  symlinkSync,
} from 'node:fs'
import { describe, expect, test } from 'vitest'
import { Workplace } from './program.ts'

const onPosix = test.skipIf(process.platform === 'win32')

/** The same path in old, new and mine. */
function three(path: string, old: string, fresh: string, mine: string): Record<string, string> {
  return { [`old/${path}`]: old, [`new/${path}`]: fresh, [`mine/${path}`]: mine }
}

describe('unusual inputs', () => {
  test('come to a result or a located problem, and never to a crash', () => {
    const deep = (n: number): string => '['.repeat(n) + ']'.repeat(n)
    const place = new Workplace({
      ...three('empty.json', '', '', ''),
      ...three('emptied.json', '{}', '', '{"a": 1}'),
      ...three('comment.xml', '<a/>', '<!-- only -->', '<a b="1"/>'),
      ...three('empty.ini', '', 'a = 1\n', 'b = 1\n'),
      ...three('deep.json', deep(100_000), `${deep(100_000)} `, deep(100_001)),
      ...three('deep.xml', '<a>'.repeat(100_000), '<a/>', '<a/>'),
      ...three(
        'deep-enough.json',
        '['.repeat(390) + '1' + ']'.repeat(390),
        '['.repeat(390) + '2' + ']'.repeat(390),
        `${'['.repeat(390)} 1${']'.repeat(390)}`,
      ),
      ...three('nul.json', '{"a": "x"}', '{"a": "y"}', '{"a": "x\u0000"}'),
      ...three('__proto__', 'x', 'y', 'x'),
      ...three(
        'constructor.ini',
        '[__proto__]\na = 1\n',
        '[__proto__]\na = 2\n',
        '[__proto__]\na = 1\nhasOwnProperty = 2\n',
      ),
      ...three(
        'root.xml',
        '<finds><a>1</a></finds>',
        '<found><a>1</a></found>',
        '<finds><a>2</a></finds>',
      ),
      ...three(
        'one-line.json',
        `{"a": "${'x'.repeat(2_000_000)}", "b": 1}`,
        `{"a": "${'x'.repeat(2_000_000)}", "b": 2}`,
        `{"a": "${'x'.repeat(2_000_000)}", "c": 1, "b": 1}`,
      ),
      ...three(
        'space.xml',
        '<a xmlns:p="u"><p:b xml:space="preserve"> 1 </p:b></a>',
        '<a xmlns:p="u"><p:b xml:space="preserve"> 2 </p:b></a>',
        '<a xmlns:p="u"><p:b xml:space="preserve"> 1 </p:b><c/></a>',
      ),
    })
    const { code, document } = place.carryJson()
    expect(code).toBe(3)
    expect(Object.fromEntries(document.files.map((file) => [file.path, file.outcome]))).toEqual({
      'empty.json': 'same',
      'emptied.json': 'unread',
      'comment.xml': 'unread',
      'empty.ini': 'merged',
      'deep.json': 'unread',
      'deep.xml': 'unread',
      'deep-enough.json': 'vanilla',
      'nul.json': 'unread',
      ['__proto__']: 'vanilla',
      'constructor.ini': 'merged',
      'root.xml': 'merged',
      'one-line.json': 'merged',
      'space.xml': 'merged',
    })
    for (const file of document.files.filter((each) => each.outcome === 'unread')) {
      expect(file.problems[0], file.path).toMatchObject({ severity: 'error', line: 1 })
    }
    expect(place.read('out/root.xml')).toBe('<found><a>2</a></found>')
    expect(place.read('out/space.xml')).toBe(
      '<a xmlns:p="u"><p:b xml:space="preserve"> 2 </p:b><c/></a>',
    )
    expect(place.read('out/constructor.ini')).toBe('[__proto__]\na = 2\nhasOwnProperty = 2\n')
  })

  onPosix(
    'a pipe is not opened, links are not followed, empty folders and modes are carried',
    () => {
      const place = new Workplace({
        ...three('a.ini', 'a = 1\n', 'a = 2\n', 'a = 1\nb = 1\n'),
        'mine/logs/': '',
      })
      spawnSync('mkfifo', [place.path('mine/pipe')])
      symlinkSync('loop', place.path('mine/loop'))
      symlinkSync('../old', place.path('mine/up'))
      chmodSync(place.path('mine/a.ini'), 0o755)
      const { code, document } = place.carryJson()
      expect(code).toBe(0)
      expect(document.problems.map((problem) => problem.code)).toEqual(['file/not-opened'])
      expect(readdirSync(place.path('out')).sort()).toEqual(['a.ini', 'logs', 'loop', 'up'])
      expect(readlinkSync(place.path('out/up'))).toBe('../old')
      expect(lstatSync(place.path('out/loop')).isSymbolicLink()).toBe(true)
      expect(statSync(place.path('out/a.ini')).mode & 0o777).toBe(0o755)
      expect(statSync(place.path('out/logs')).isDirectory()).toBe(true)
    },
  )

  onPosix('whatever stands at a path, it is carried like a value, or asked', () => {
    const things: Record<string, (at: string, place: Workplace) => void> = {
      none: () => undefined,
      reef: (at, place) => place.write({ [at]: '[dive]\ndepth = 3\n' }),
      deep: (at, place) => place.write({ [at]: '[dive]\ndepth = 4\n' }),
      up: (at, place) => symlinkSync('..', place.path(at)),
      here: (at, place) => symlinkSync('.', place.path(at)),
      folder: (at, place) => place.write({ [`${at}/depth.ini`]: 'depth = 3\n' }),
    }
    const place = new Workplace({ 'old/': '', 'new/': '', 'mine/': '' })
    const names = Object.keys(things)
    const triples = names.flatMap((old) =>
      names.flatMap((fresh) => names.map((mine) => [old, fresh, mine] as const)),
    )
    for (const triple of triples)
      for (const [side, thing] of triple.entries())
        things[thing]?.(`${['old', 'new', 'mine'][side] ?? ''}/${triple.join('-')}`, place)
    const { document } = place.carryJson('--yes')
    const stands = (path: string): string => {
      const at = place.path(`out/${path}`)
      const found = lstatSync(at, { throwIfNoEntry: false })
      if (found === undefined) return 'none'
      if (found.isSymbolicLink()) return readlinkSync(at) === '..' ? 'up' : 'here'
      if (found.isDirectory()) return 'folder'
      return readFileSync(at, 'utf8').includes('3') ? 'reef' : 'deep'
    }
    for (const [old, fresh, mine] of triples) {
      const path = [old, fresh, mine].join('-')
      const asked = document.files
        .filter((file) => file.path === path || file.path.startsWith(`${path}/`))
        .flatMap(({ conflicts }) => conflicts)
      const wanted = old === mine ? fresh : old === fresh || fresh === mine ? mine : undefined
      if (wanted === undefined) expect(asked, path).not.toEqual([])
      else expect([stands(path), asked], path).toEqual([wanted, []])
    }
  })

  test('inputs are never written to', () => {
    const place = new Workplace(three('a.ini', 'a = 1\n', 'a = 2\n', 'a = 3\n'))
    const before = ['old', 'new', 'mine'].map((name) =>
      readFileSync(place.path(`${name}/a.ini`), 'utf8'),
    )
    place.carry()
    expect(
      ['old', 'new', 'mine'].map((name) => readFileSync(place.path(`${name}/a.ini`), 'utf8')),
    ).toEqual(before)
  })

  test('paths with blanks and other letters', () => {
    const place = new Workplace({
      'alt älter/x y.ini': 'a = 1\n',
      'neu/x y.ini': 'a = 2\n',
      'mein 深い/x y.ini': 'a = 1\nb = 1\n',
    })
    mkdirSync(place.path('hin aus'))
    const { code } = place.run([
      'carry',
      '--old',
      'alt älter',
      '--new',
      'neu',
      '--mine',
      'mein 深い',
      '--out',
      'hin aus/da',
    ])
    expect(code).toBe(0)
    expect(place.tree('hin aus/da')).toEqual({ 'x y.ini': 'a = 2\nb = 1\n' })
  })
})

describe('the config reaches the merge', () => {
  test('order, list and format', () => {
    const charts = (...names: string[]): string =>
      `<charts>${names.map((name) => `<chart>${name}</chart>`).join('')}</charts>`
    const place = new Workplace({
      ...three(
        'charts/order.xml',
        charts('a', 'b', 'c'),
        charts('c', 'a', 'b'),
        charts('b', 'a', 'c'),
      ),
      ...three(
        'roles.json',
        '{"kit": "rope, knife"}',
        '{"kit": "rope, knife, slate"}',
        '{"kit": "knife"}',
      ),
      ...three('sea.rules', 'a = 1\nb = 1\n', 'a = 2\nb = 1\n', 'a = 1\nb = 3\n'),
      'config.yaml':
        'files:\n  - { match: "charts/*.xml", order: { chart: matters } }\n  - { match: roles.json, list: { kit: "," } }\n  - { match: "*.rules", format: ini }\n',
    })
    const { code, document } = place.carryJson('--config', 'config.yaml')
    expect(code).toBe(1)
    expect(document.files.map(({ path, format, outcome }) => [path, format, outcome])).toEqual([
      ['charts/order.xml', 'xml', 'conflict'],
      ['roles.json', 'json', 'merged'],
      ['sea.rules', 'ini', 'merged'],
    ])
    expect(document.files[0]?.conflicts).toMatchObject([{ key: 'chart', kind: 'order' }])
    expect(place.read('out/roles.json')).toBe('{"kit": "knife, slate"}')
    expect(place.read('out/sea.rules')).toBe('a = 2\nb = 3\n')
  })
})
