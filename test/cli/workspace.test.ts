import { cpSync, existsSync, mkdirSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import type { z } from 'zod'
import {
  backupDocument,
  backupsDocument,
  overviewDocument,
  setupDocument,
} from '../../src/show/workspace-document.ts'
import { carryDocument } from '../../src/show/carry-document.ts'
import { whatsNewDocument } from '../../src/show/whatsnew-document.ts'
import { ROOT, Workplace } from './program.ts'

const SETUP = [
  'setup',
  '--variant',
  'old-harbour',
  '--folder',
  'old-harbour',
  '--vanilla',
  '4.1',
  '--source',
  'vanilla-4.1',
]

/** The demo data in a folder whose path has a blank and letters that are not ASCII. */
function demo(): Workplace {
  const place = new Workplace({ 'Sälz ørt/': '' })
  const inner = new Workplace()
  Object.defineProperty(inner, 'folder', { value: place.path('Sälz ørt') })
  cpSync(join(ROOT, 'demo/data'), inner.folder, { recursive: true })
  return inner
}

function json<S extends z.ZodType>(place: Workplace, schema: S, ...args: string[]): z.infer<S> {
  const { out, err } = place.run([...args, '--json'])
  if (out === '') throw new Error(err)
  return schema.parse(JSON.parse(out))
}

describe('setup', () => {
  test('writes a config with reasons, takes vanilla and a backup, and run again changes nothing', () => {
    const place = demo()
    place.write({
      'old-harbour/bin/salt.exe': 'MZ',
      'old-harbour/logs/today.log': 'dived',
      'old-harbour/divers/ada.json': '{}',
      'old-harbour/tools/pump.dll': 'MZ',
    })
    const before = place.tree('old-harbour')
    const done = json(place, setupDocument, ...SETUP, '--game', 'Saltlantern: "deep"')
    expect(done.config).toBe('written')
    expect(done.policies.map(({ match, take }) => [match, take])).toEqual([
      ['bin/**', 'vanilla'],
      ['logs/**', 'leave-out'],
      ['divers/**', 'mine'],
      ['**/*.dll', 'vanilla'],
    ])
    expect(done.inStore).toBe(true)
    const config = place.read('anagnosis.yaml')
    expect(config.split('\n')[0]).toBe(
      '# yaml-language-server: $schema=.anagnosis/anagnosis.schema.json',
    )
    expect(JSON.parse(place.read('.anagnosis/anagnosis.schema.json'))).toHaveProperty(
      'properties.variants',
    )
    expect(config).toContain('version-at: "old-harbour/build.json: release"')
    expect(config).toMatch(
      /# programs and libraries[^\n]*\n {2}- \{ match: "bin\/\*\*", take: vanilla \}/,
    )
    const copy = done.backup?.location ?? ''
    expect(place.tree(join('.anagnosis/backups', copy.slice(copy.lastIndexOf('/') + 1)))).toEqual(
      before,
    )

    const again = json(place, setupDocument, ...SETUP)
    expect([again.config, again.backup]).toEqual(['as-it-was', null])
    expect(place.read('anagnosis.yaml')).toBe(config)
    expect(place.tree('old-harbour')).toEqual(before)
  })

  test('adds a variant to a config and keeps its comments; another folder under its name is refused', () => {
    const place = demo()
    const mine = `# ours\nvariants: # all of them\n  trench: { folder: trench, vanilla: "4.1" }  # the deep one\n`
    place.write({ 'anagnosis.yaml': mine, 'trench/': '' })
    expect(json(place, setupDocument, ...SETUP).config).toBe('added-to')
    expect(place.read('anagnosis.yaml')).toBe(
      `${mine}  old-harbour: { folder: "old-harbour", vanilla: "4.1" }\n`,
    )
    const { code, err } = place.run(
      SETUP.map((word) => (word === 'old-harbour' ? 'trench' : word)).with(4, 'vanilla-4.2'),
    )
    expect([code, err.replace(/\s+/g, ' ')]).toEqual([
      4,
      expect.stringContaining('has a variant trench already'),
    ])
  })

  test('what is missing is said where nobody can be asked, and a bare version number is explained', () => {
    const place = demo()
    expect(place.run(['setup', '--folder', 'old-harbour'])).toMatchObject({
      code: 2,
      err: expect.stringContaining('the call lacks --variant, --vanilla') as string,
    })
    place.write({ 'anagnosis.yaml': 'variants:\n  a: { folder: old-harbour, vanilla: 4.10 }\n' })
    const { code, err } = place.run(['overview'])
    expect([code, err.replace(/\s+/g, ' ')]).toEqual([
      2,
      expect.stringContaining('a bare 4.10 is the number 4.1'),
    ])
    expect(err).toContain('anagnosis.yaml:2:')
  })

  test('a name that no file can have writes nothing; what was written before a wrong source is said', () => {
    const place = demo()
    const call = ['--folder', 'old-harbour', '--vanilla', '4.1', '--source', 'vanilla-4.0']
    const badName = place.run(['setup', '--variant', 'a/b', ...call])
    expect([badName.code, badName.err]).toEqual([
      2,
      expect.stringContaining('a/b cannot be the name'),
    ])
    expect(existsSync(place.path('anagnosis.yaml'))).toBe(false)
    const badSource = place.run(['setup', '--variant', 'a', ...call])
    expect([badSource.code, badSource.err]).toEqual([
      2,
      expect.stringMatching(/anagnosis.yaml is written: the same call,\s+mended, does the rest/),
    ])
    const mended = [...call.slice(0, -1), 'vanilla-4.1']
    expect(place.run(['setup', '--variant', 'a', ...mended])).toMatchObject({ code: 0, err: '' })
  })
})

describe('whatsnew', () => {
  const stored = (): Workplace => {
    const place = demo()
    place.run(SETUP)
    place.run(['vanilla', 'add', '4.2', 'vanilla-4.2'])
    return place
  }

  test('tells each change once, in the store and on paths alike, and for a variant first what it does to it', () => {
    const place = stored()
    const news = json(place, whatsNewDocument, 'whatsnew', '4.1', '4.2')
    const { changed, added, removed, moved, renamed } = news.counts
    const sum = news.groups.reduce((total, { count }) => total + count, 0)
    expect(sum).toBe(changed + added + removed + moved + renamed)
    expect(news.groups.every(({ count, keys }) => count === keys.length)).toBe(true)
    const worths = news.groups.find(
      ({ pattern, count }) => pattern === 'find[*]/worth' && count === 22,
    )
    expect(worths?.law).toEqual({ by: 'percent', percent: 110 })
    expect(news.comments.map(({ new: text }) => text)).toContain('Times are dives now.')
    const paths = json(
      place,
      whatsNewDocument,
      'whatsnew',
      '--old',
      'vanilla-4.1',
      '--new',
      'vanilla-4.2',
    )
    expect(paths.groups).toEqual(news.groups)

    const touched = json(place, whatsNewDocument, 'whatsnew', '4.1', '4.2', '--for', 'old-harbour')
    const carried = json(
      place,
      carryDocument,
      'carry',
      ...['--old', 'vanilla-4.1', '--new', 'vanilla-4.2', '--mine', 'old-harbour', '--out', 'out'],
    )
    expect(touched.for?.conflicts).toHaveLength(carried.counts.conflicts)
    expect(touched.for?.counts.edits).toBeLessThanOrEqual(carried.counts.edits)
    const { code, out } = place.run(['whatsnew', '4.1', '4.2', '--for', 'old-harbour'])
    expect(code).toBe(0)
    expect(out.indexOf('What it does to your edits')).toBeLessThan(out.indexOf('Retuned'))
    expect(out.split('\n').filter((line) => line.length > 80)).toEqual([])
  })

  test('edits are those against the vanilla that a variant was made from, wherever the update begins', () => {
    const place = stored()
    place.run(['vanilla', 'add', '4.0', 'old-harbour'])
    const of = (old: string): unknown =>
      json(place, whatsNewDocument, 'whatsnew', old, '4.2', '--for', 'old-harbour').for
    expect(of('4.0')).toEqual(of('4.1'))
  })

  test('a policy that takes vanilla is told by what it wipes', () => {
    const place = stored()
    const config = place
      .read('anagnosis.yaml')
      .replace('files: []', 'files:\n  - { match: "crew/**", take: vanilla }')
    writeFileSync(place.path('anagnosis.yaml'), config)
    const { for: touch } = json(
      place,
      whatsNewDocument,
      'whatsnew',
      '4.1',
      '4.2',
      '--for',
      'old-harbour',
    )
    expect(new Set(touch?.wiped.map(({ path }) => path))).toEqual(new Set(['crew/roles.json']))
  })

  test('trial revisions compare like releases, one file can be asked for, and what is unread is named', () => {
    const place = stored()
    place.run(['vanilla', 'add', '4.3', 'vanilla-4.2', '--trial'])
    place.write({
      'vanilla-4.2/rules/dive.json': '{ "limits": { "oxygen": 60 } }',
      'vanilla-4.2/crew/roles.json': '{',
    })
    place.run(['vanilla', 'add', '4.3', 'vanilla-4.2', '--trial'])
    const one = json(
      place,
      whatsNewDocument,
      'whatsnew',
      '4.3+1',
      '4.3+2',
      '--file',
      'rules/*.json',
    )
    expect([one.from, one.to, one.files.all, one.groups.map(({ path }) => path)]).toEqual([
      '4.3+1',
      '4.3+2',
      1,
      expect.arrayContaining(['rules/dive.json']),
    ])
    const { code, out } = place.run(['whatsnew', '4.3+1', '4.3'])
    expect([code, out]).toEqual([3, expect.stringContaining('crew/roles.json:1:')])
  })
})

describe('backup and overview', () => {
  test('backups are plain folders, thinned only when asked', () => {
    const place = demo()
    place.run(SETUP)
    symlinkSync('readme.txt', place.path('old-harbour/linked.txt'))
    mkdirSync(place.path('old-harbour/empty'))
    const { backups, removed } = json(place, backupDocument, 'backup', 'old-harbour')
    expect(removed).toEqual([])
    const name = backups[0]?.name ?? ''
    expect(place.tree(`.anagnosis/backups/${name}`)).toEqual(place.tree('old-harbour'))
    expect(readdirSync(place.path(`.anagnosis/backups/${name}`))).toEqual(
      readdirSync(place.path('old-harbour')),
    )
    expect(json(place, backupsDocument, 'backup', 'list').backups).toHaveLength(2)
    const kept = json(place, backupDocument, 'backup', 'old-harbour', '--keep', '1')
    expect(kept.removed).toHaveLength(2)
    expect(json(place, backupsDocument, 'backup', 'list').backups.map((each) => each.name)).toEqual(
      [kept.backups[0]?.name],
    )
    expect(readdirSync(place.path('.anagnosis/backups'))).toHaveLength(2)
  })

  test('a variant that cannot be backed up does not keep the others from it', () => {
    const place = demo()
    place.run(SETUP)
    const config = place.read('anagnosis.yaml')
    const more = 'variants:\n  gone: { folder: gone, vanilla: "4.1" }\n'
    writeFileSync(place.path('anagnosis.yaml'), config.replace('variants:\n', more))
    const { code, out } = place.run(['backup', '--json'])
    const { backups, problems } = backupDocument.parse(JSON.parse(out))
    expect([code, backups.map(({ variant }) => variant)]).toEqual([2, ['old-harbour']])
    expect(problems[0]).toMatchObject({ severity: 'error', code: 'system/enoent' })
  })

  test('overview says what is newer, what is wiped, and whether the game agrees, from any folder inside', () => {
    const place = demo()
    place.run(SETUP)
    place.run(['vanilla', 'add', '4.2', 'vanilla-4.2'])
    const fine = json(place, overviewDocument, 'overview')
    expect(fine.variants[0]).toMatchObject({
      vanilla: '4.1',
      newer: ['4.2'],
      wiped: [],
      agrees: true,
    })
    expect(fine.next[0]).toBe('anagnosis whatsnew 4.1 4.2 --for old-harbour')
    // an updater has put its own files in the place of two of ours
    for (const path of ['build.json', 'crew/roles.json'])
      cpSync(place.path(`vanilla-4.2/${path}`), place.path(`old-harbour/${path}`))
    const inner = Object.assign(Object.create(place) as Workplace, {
      folder: place.path('old-harbour/rules'),
    })
    const wiped = json(inner, overviewDocument, 'overview')
    expect(wiped.variants[0]?.wiped.map(({ path, key }) => `${path}: ${key}`)).toContain(
      'crew/roles.json: roles[stoker]/pay',
    )
    expect(wiped.installed).toMatchObject({ version: '4.2', inStore: true })
    expect(wiped.variants[0]?.agrees).toBe(false)
    expect(
      json(new Workplace(), overviewDocument, 'overview', '--workspace', place.folder),
    ).toEqual(wiped)
    const { out, code } = place.run(['overview'])
    expect([code, out]).toEqual([
      0,
      expect.stringMatching(/WIPED +\d+ edits in 1 file are gone since they were kept/),
    ])
    expect(new Workplace().run(['overview'])).toMatchObject({
      code: 2,
      err: expect.stringContaining('there is no anagnosis.yaml') as string,
    })
  })
})
