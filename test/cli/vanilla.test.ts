import { execFileSync, spawn } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import {
  addedDocument,
  guessedDocument,
  listedDocument,
  removedDocument,
  verifiedDocument,
} from '../../src/show/vanilla-document.ts'
import { writeBomb, writeTar, writeZip } from '../workspace/archives.ts'
import type { Files } from './program.ts'
import { PROGRAM, Workplace } from './program.ts'

const CONFIG = `version-at: "game/build.json: release"
variants:
  old-harbour: { folder: live, vanilla: "4.1" }
`
const finds = (...worths: number[]): string =>
  `<finds>\n${worths.map((worth, i) => `  <find id="f${i}"><worth>${worth}</worth></find>\n`).join('')}</finds>\n`
const build = (release: string): string => `{ "release": "${release}" }\n`

const V41: Files = {
  'build.json': build('4.1'),
  'salvage/finds.xml': finds(1, 2, 3, 4),
  'rules/sea.ini': 'a = 1\n',
}
const V42: Files = {
  'build.json': build('4.2'),
  'salvage/finds.xml': finds(1, 2, 3, 9),
  'rules/sea.ini': 'a = 1\n',
}

const under = (folder: string, files: Files): Files =>
  Object.fromEntries(Object.entries(files).map(([path, content]) => [`${folder}/${path}`, content]))

/** A workspace with the files of two releases beside it. */
function workspace(more: Files = {}): Workplace {
  return new Workplace({
    'anagnosis.yaml': CONFIG,
    ...under('live', V41),
    ...under('v41', V41),
    ...under('v42', V42),
    ...more,
  })
}

const json = (place: Workplace, ...args: string[]): unknown =>
  JSON.parse(place.run([...args, '--json']).out)

/** Paths of everything in the store that is content or a list. */
function stored(place: Workplace): string[] {
  const all = readdirSync(place.path('.anagnosis/vanilla'), { recursive: true, encoding: 'utf8' })
  return all.filter((name) => /[0-9a-f]{62}/.test(name)).sort()
}

describe('vanilla add', () => {
  test('a second release costs what it changes, and both are listed in their order', () => {
    const place = workspace()
    const first = addedDocument.parse(json(place, 'vanilla', 'add', '4.1', 'v41'))
    const second = addedDocument.parse(json(place, 'vanilla', 'add', '4.2', 'v42'))
    expect(first.release.newBytes).toBe(first.release.bytes)
    expect(second.release.newBytes).toBe(finds(1, 2, 3, 9).length + build('4.2').length)
    expect(second.next).toEqual(['anagnosis whatsnew 4.1 4.2'])
    const listed = listedDocument.parse(json(place, 'vanilla', 'list'))
    expect(listed.releases.map(({ name, variants }) => [name, variants])).toEqual([
      ['4.1', ['old-harbour']],
      ['4.2', []],
    ])
    expect(place.run(['vanilla', 'add', '4.2', 'v41']).code).toBe(4)
  })

  test('folder, zip, tar and a git revision of the same files are the same release', async () => {
    const place = workspace()
    const flat = Object.fromEntries(
      Object.entries(V42).map(([path, content]) => [path, String(content)]),
    )
    await writeZip(place.path('v42.zip'), flat)
    writeTar(
      place.path('v42.tgz'),
      Object.entries(flat).map(([path, content]) => ({ path, content })),
    )
    const git = (...args: string[]): void => {
      execFileSync('git', [
        '-C',
        place.path('v42'),
        '-c',
        'user.name=a',
        '-c',
        'user.email=a@b',
        ...args,
      ])
    }
    // a repository that would convert line ends when files are written
    writeFileSync(place.path('v42/.gitattributes'), '*.ini text eol=crlf\n')
    git('init', '-q')
    git('add', '.')
    git('commit', '-qm', 'release')
    git('tag', 'v4.2')
    const bytes = ['v42.zip', 'v42.tgz', 'v42@v4.2'].map((source, i) => {
      const only = i === 2 ? ['--only', '*/**', '--only', '*.json'] : []
      const added = addedDocument.parse(
        json(place, 'vanilla', 'add', '4.2', source, '--trial', ...only),
      )
      return [added.release.name, added.sameAs]
    })
    expect(bytes).toEqual([
      ['4.2+1', null],
      ['4.2+1', '4.2+1'],
      ['4.2+1', '4.2+1'],
    ])
    const { code, err } = place.run(['vanilla', 'add', '4.2', 'v42@no-such-tag', '--trial'])
    expect([code, err.split('\n')[0]]).toEqual([2, 'v42 has no such revision'])
  })

  test('a trial gets its next revision, an update stands on a release, and parts are one release', () => {
    const place = workspace({
      'part/rules/sea.ini': 'a = 2\n',
      'wrap/game/rules/deep.ini': 'b = 1\n',
    })
    place.run(['vanilla', 'add', '4.1', 'v41'])
    const names = [
      ['4.2', 'v42', '--trial'],
      ['4.2', 'part', '--trial', '--onto', '4.2'],
      ['4.3', 'part', 'wrap', '--subfolder', 'game'],
      ['4.4', 'v42', 'part', 'wrap/game'],
    ].map((args) => {
      const { out, code } = place.run(['vanilla', 'add', ...args, '--json'])
      return [code, code === 0 ? addedDocument.parse(JSON.parse(out)).release : undefined] as const
    })
    expect(names.map(([code, release]) => [code, release?.name, release?.files])).toEqual([
      [0, '4.2+1', 3],
      [0, '4.2+2', 3],
      [0, '4.3', 1],
      [0, '4.4', 4],
    ])
  })

  test('what the files say of themselves is held against the label', () => {
    const place = workspace()
    const added = addedDocument.parse(json(place, 'vanilla', 'add', '4.3', 'v42'))
    expect(added.says).toBe('4.2')
    expect(added.problems.map(({ code }) => code)).toEqual(['vanilla/says-other'])
  })
})

describe('archives that are up to something', () => {
  /** What the program says of a source that it refuses, when the store is as it was. */
  const refused = (place: Workplace, source: string): string => {
    if (!existsSync(place.path('.anagnosis'))) place.run(['vanilla', 'add', '4.1', 'v41'])
    const before = stored(place)
    const { code, err } = place.run(['vanilla', 'add', '4.2', source])
    expect(stored(place)).toEqual(before)
    return `${code} ${err.replace(/\s+/g, ' ')}`
  }

  test('paths that leave the folder are refused, in zip and tar', async () => {
    const place = workspace()
    for (const path of [
      '../evil.txt',
      '/etc/evil.txt',
      'C:/evil.txt',
      'a/../../evil',
      '..\\evil.txt',
    ]) {
      await writeZip(place.path('a.zip'), { 'build.json': '{}', [path]: 'x' })
      writeTar(place.path('a.tgz'), [
        { path: 'build.json', content: '{}' },
        { path, content: 'x' },
      ])
      for (const source of ['a.zip', 'a.tgz'])
        expect(refused(place, source)).toMatch(/^4 .*which (leads|is abs|names)/)
    }
    expect(listedDocument.parse(json(place, 'vanilla', 'list')).releases).toHaveLength(1)
  })

  test('a bomb is stopped, and a broken archive is no release', async () => {
    const place = workspace({ 'cut.zip': 'PK\u0003\u0004 and no more', 'odd.rar': 'nothing known' })
    await writeBomb(place.path('bomb.zip'), 150 * 2 ** 20)
    expect(refused(place, 'bomb.zip')).toMatch(/^4 .*200 times what it is packed/)
    expect(refused(place, 'cut.zip')).toMatch(/^3 .*cannot be read as a zip archive/)
    expect(refused(place, 'odd.rar')).toMatch(/^3 .*neither a folder nor an archive/)
  })

  test('a checksum that is wrong is told, and data that cannot be unpacked', async () => {
    const place = workspace()
    const alter = (mark: string, at: number): void => {
      const bytes = readFileSync(place.path('a.zip'))
      const where = bytes.indexOf(Buffer.from(mark, 'latin1')) + at
      bytes[where] = (bytes[where] ?? 0) ^ 0xff
      place.write({ 'a.zip': bytes })
    }
    await writeZip(place.path('a.zip'), { 'b.json': '{"depth":12345678}' })
    alter('PK\x01\x02', 16)
    expect(refused(place, 'a.zip')).toMatch(/^3 .*its checksum is wrong/)
    await writeZip(place.path('a.zip'), { 'b.json': '{"depth":1}'.repeat(99) })
    alter('b.json', 'b.json'.length)
    expect(refused(place, 'a.zip')).toMatch(/^3 .*it is damaged or cut short/)
  })

  test('links out and devices are left out, and capitals that clash are told', () => {
    const place = workspace()
    writeTar(place.path('a.tgz'), [
      { path: 'build.json', content: '{}' },
      { path: 'Build.json', content: '{ }' },
      { path: 'out', type: 'SymbolicLink', linkpath: '../../etc/passwd' },
      { path: 'in', type: 'SymbolicLink', linkpath: 'build.json' },
      { path: 'device', type: 'CharacterDevice' },
      { path: 'rules/con.ini', content: 'a = 1\n' },
    ])
    const added = addedDocument.parse(json(place, 'vanilla', 'add', '4.2', 'a.tgz'))
    expect(added.problems.map(({ code, path }) => `${code} ${path ?? ''}`).sort()).toEqual([
      'source/link out',
      'source/name rules/con.ini',
      'source/not-opened device',
      'source/other-capitals Build.json',
    ])
    expect(added.release.files).toBe(4)
  })
})

describe('the store', () => {
  test('verify names what is missing or altered, and remove refuses while a variant stands on it', () => {
    const place = workspace()
    place.run(['vanilla', 'add', '4.1', 'v41'])
    place.run(['vanilla', 'add', '4.2', 'v42'])
    expect(place.run(['vanilla', 'remove', '4.1']).code).toBe(4)
    const [first = '', second = ''] = stored(place).filter((name) => name.startsWith('objects'))
    writeFileSync(join(place.path('.anagnosis/vanilla'), first), 'altered')
    rmSync(join(place.path('.anagnosis/vanilla'), second))
    const { code, out } = place.run(['vanilla', 'verify', '--json'])
    expect(code).toBe(1)
    const { findings } = verifiedDocument.parse(JSON.parse(out))
    expect(new Set(findings.map(({ what }) => what))).toEqual(new Set(['missing', 'altered']))
  })

  test('remove frees what no other release has', () => {
    const place = workspace()
    place.run(['vanilla', 'add', '4.1', 'v41'])
    place.run(['vanilla', 'add', '4.2', 'v42'])
    const { freedBytes } = removedDocument.parse(json(place, 'vanilla', 'remove', '4.2'))
    expect(freedBytes).toBe(finds(1, 2, 3, 9).length + build('4.2').length)
    expect(place.run(['vanilla', 'verify']).code).toBe(0)
    expect(stored(place).filter((name) => /[0-9a-f]{62}$/.test(name))).toHaveLength(3)
  })

  test('a run that is interrupted leaves the store as it was', async () => {
    const place = workspace(
      Object.fromEntries(Array.from({ length: 4000 }, (_, i) => [`many/${i}.ini`, `a = ${i}\n`])),
    )
    place.run(['vanilla', 'add', '4.1', 'v41'])
    const before = readdirSync(place.path('.anagnosis/vanilla'), { recursive: true }).sort()
    const child = spawn(process.execPath, [...PROGRAM, 'vanilla', 'add', '4.2', 'many'], {
      cwd: place.folder,
    })
    const exit = new Promise((resolve) => child.once('exit', resolve))
    const incoming = (): boolean =>
      readdirSync(place.path('.anagnosis/vanilla')).some((name) => name.startsWith('incoming'))
    while (!incoming()) await new Promise((resolve) => setTimeout(resolve, 10))
    child.kill('SIGINT')
    expect(await exit).toBe(130)
    expect(readdirSync(place.path('.anagnosis/vanilla'), { recursive: true }).sort()).toEqual(
      before,
    )
  })

  test('a run that is killed leaves the store as it was, and the next one sweeps up', async () => {
    const many = Object.fromEntries(
      Array.from({ length: 3000 }, (_, i) => [`many/${i}.ini`, `a = ${i}\n`]),
    )
    const place = workspace(many)
    place.run(['vanilla', 'add', '4.1', 'v41'])
    const before = stored(place)
    const child = spawn(process.execPath, [...PROGRAM, 'vanilla', 'add', '4.2', 'many'], {
      cwd: place.folder,
    })
    const incoming = (): string[] =>
      readdirSync(place.path('.anagnosis/vanilla')).filter((name) => name.startsWith('incoming'))
    while (incoming().length === 0) await new Promise((resolve) => setTimeout(resolve, 10))
    child.kill('SIGKILL')
    await new Promise((resolve) => child.once('exit', resolve))
    expect(incoming()).not.toEqual([])
    const listed = listedDocument.parse(json(place, 'vanilla', 'list'))
    expect(listed.releases.map(({ name }) => name)).toEqual(['4.1'])
    expect(place.run(['vanilla', 'add', '4.2', 'v41', '--trial']).code).toBe(0)
    expect(incoming()).toEqual([])
    expect(stored(place).filter((name) => name.startsWith('objects'))).toEqual(
      before.filter((name) => name.startsWith('objects')),
    )
  })
})

describe('vanilla guess', () => {
  test('says what each file was made from, and when a folder is not clean', () => {
    const place = workspace({
      ...under('live', V41),
      'live/salvage/finds.xml': finds(1, 2, 3, 4).replace('<worth>2</worth>', '<worth>8</worth>'),
      'live/own.ini': 'b = 1\n',
      ...under('mixed', { ...V41, 'salvage/finds.xml': V42['salvage/finds.xml'] ?? '' }),
      'mixed/rules/sea.ini': 'nothing = like\nit = at all\n',
    })
    place.run(['vanilla', 'add', '4.1', 'v41'])
    place.run(['vanilla', 'add', '4.2', 'v42'])
    const guess = (folder: string): [number | null, ReturnType<typeof guessedDocument.parse>] => {
      const { code, out } = place.run(['vanilla', 'guess', folder, '--json'])
      return [code, guessedDocument.parse(JSON.parse(out))]
    }
    expect(guess('v42')).toMatchObject([
      0,
      { release: '4.2', clean: true, others: [], missing: [] },
    ])
    const [code, live] = guess('live')
    expect([code, live.release, live.clean]).toEqual([1, '4.1', false])
    expect(live.files.find(({ path }) => path === 'salvage/finds.xml')).toMatchObject({
      releases: ['4.1'],
      differs: 1,
      share: 7 / 8,
    })
    expect(live.files.find(({ path }) => path === 'own.ini')?.own).toBe(true)
    const [, mixed] = guess('mixed')
    expect(mixed.others.length + (mixed.release === '4.2' ? 1 : 0)).toBeGreaterThan(0)
    expect(mixed.files.find(({ path }) => path === 'rules/sea.ini')?.releases).toEqual([])
    expect(place.run(['vanilla', 'guess', 'mixed']).out).toMatch(
      /different vanillas, as after an update/,
    )
  })
})

test('releases stand in the order in which they came out, where somebody says so', () => {
  const place = workspace()
  place.run(['vanilla', 'add', '4.2', 'v42'])
  place.run(['vanilla', 'add', '4.1', 'v41'])
  const order = (...args: string[]): string[] => {
    const { out } = place.run(['vanilla', 'order', ...args, '--json'])
    return listedDocument.parse(JSON.parse(out)).releases.map(({ name }) => name)
  }
  expect(order('4.1', '--before', '4.2')).toEqual(['4.1', '4.2'])
  expect(order('4.1', '--after', '4.2')).toEqual(['4.2', '4.1'])
  expect(place.run(['vanilla', 'order', '4.1']).code).toBe(2)
  expect(place.run(['vanilla', 'order', '4.1', '--after', '4.3'])).toMatchObject({
    code: 2,
    err: expect.stringContaining('did you mean') as string,
  })
})

test('a source that is not as untouched as vanilla should be is told', () => {
  const place = workspace({
    'live/rules/sea.ini': 'a = 7\n',
    'v42/rules/sea.ini': 'a = 7\n',
    'v42/.git/HEAD': 'x',
    'v42/old/anagnosis.yaml': 'game: x\n',
  })
  place.run(['vanilla', 'add', '4.1', 'v41'])
  const { out } = place.run(['vanilla', 'add', '4.2', 'v42', '--json'])
  const { problems } = addedDocument.parse(JSON.parse(out))
  expect(problems.map(({ code, path }) => `${code} ${path}`).sort()).toEqual([
    'source/edited rules/sea.ini',
    'source/strange .git/HEAD',
    'source/strange old/anagnosis.yaml',
  ])
})
