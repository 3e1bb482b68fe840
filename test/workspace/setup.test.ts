import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import fc from 'fast-check'
import picomatch from 'picomatch'
import { describe, expect, test } from 'vitest'
import { parse } from 'yaml'
import { isVariantName, parseConfig } from '../../src/workspace/config/config.ts'
import { newConfigText, withVariant } from '../../src/workspace/setup/config-text.ts'
import { findVersionAt } from '../../src/workspace/setup/find-version.ts'
import { proposePolicies } from '../../src/workspace/setup/policies.ts'
import { installedVersion, parseVersionAt } from '../../src/workspace/version-at.ts'
import { temporaryFolder } from '../temporary.ts'

const folder = temporaryFolder('setup')

describe('policies', () => {
  test.each([
    [['bin/a.exe', 'bin/data.ini'], ['bin/** vanilla 2']],
    [['game/Binaries/a.exe', 'a.ini'], ['game/Binaries/** vanilla 1']],
    [['tools/a.dll', 'b.exe', 'a.ini'], ['**/*.{dll,exe} vanilla 2']],
    [
      ['Saved/deep/1.sav', 'logs/a.txt', 'x/b.log'],
      ['logs/** leave-out 1', 'Saved/** mine 1', '**/*.log leave-out 1'],
    ],
    [['rules/sea.ini', 'salvage/finds.xml', 'start.sh'], []],
    [['a[1]/bin/x'], ['a\\[1\\]/bin/** vanilla 1']],
  ])('%j', (paths, expected) => {
    const policies = proposePolicies(paths)
    expect(policies.map(({ match, take, files }) => `${match} ${take} ${files}`)).toEqual(expected)
  })

  test('each file is proposed one policy at most, by a pattern that matches it, and data files none', () => {
    const step = fc.constantFrom('bin', 'rules', 'Logs', 'saves', 'players', 'a b', 'x(1)', '{y}')
    const name = fc.constantFrom('a.exe', 'a.dll', 'b.log', 'c.sav', 'd.ini', 'e.xml', 'noext')
    const path = fc
      .tuple(fc.array(step, { maxLength: 3 }), name)
      .map(([steps, file]) => [...steps, file].join('/'))
    fc.assert(
      fc.property(fc.uniqueArray(path, { maxLength: 30 }), (paths) => {
        const policies = proposePolicies(paths)
        expect(policies.reduce((sum, { files }) => sum + files, 0)).toBeLessThanOrEqual(
          paths.length,
        )
        for (const { match } of policies)
          expect(paths.some((each) => picomatch.isMatch(each, match, { dot: true }))).toBe(true)
        const isPlain = (each: string): boolean =>
          /^(rules|a b|x\(1\)|\{y\})(\/(rules|a b|x\(1\)|\{y\}))*\/[^/]+\.(ini|xml)$/.test(each)
        for (const each of paths.filter(isPlain))
          expect(
            policies.filter(({ match }) => picomatch.isMatch(each, match, { dot: true })),
          ).toEqual([])
      }),
    )
  })
})

describe('the text of a config', () => {
  const names = fc.stringMatching(/^[A-Za-z][\w -]{0,10}\w$/).filter(isVariantName)
  const folders = fc.constantFrom(
    'servers/old-harbour',
    '.',
    'C:/Games/Salt lantern',
    '/srv/ünïcode',
    'a: b',
    '#x',
  )
  const labels = fc.constantFrom('4.1', '4.10', 'yes', '0x10', 'null', "it's", '4.2+1', '~')
  const variants = fc.record({ name: names, folder: folders, vanilla: labels })

  test('says what it was given, whatever that looks like in YAML', () => {
    fc.assert(
      fc.property(variants, fc.option(names, { nil: undefined }), (variant, game) => {
        const policies = [
          { match: 'bin/**', take: 'vanilla', reason: 'programs', files: 1 } as const,
        ]
        const text = newConfigText({ game, versionAt: undefined, variant, policies })
        const config = parseConfig(text, 'anagnosis.yaml')
        expect(config.game).toBe(game)
        expect(config.variants).toEqual({
          [variant.name]: { folder: variant.folder, vanilla: variant.vanilla },
        })
        expect(config.files).toEqual([{ match: 'bin/**', take: 'vanilla' }])
      }),
    )
  })

  const starts = fc.constantFrom(
    'variants:\n  a: { folder: x, vanilla: "1" }   # first\n\n# the end\nfiles: []\n',
    '# top\r\nvariants:\r\n    a:\r\n        folder: x\r\n        vanilla: "1"\r\nfiles:\r\n    - { match: "**", take: merge }\r\n',
    'files: [] # none\n',
    'game: X',
    'variants:\n  a: { folder: x, vanilla: "1" }',
    '',
  )

  test('one more variant leaves every other byte alone', () => {
    fc.assert(
      fc.property(starts, variants, (source, variant) => {
        fc.pre(variant.name !== 'a')
        const text = withVariant(source, variant)
        const before = (parse(source) ?? {}) as { variants?: object }
        expect(parse(text)).toEqual({
          ...before,
          variants: {
            ...before.variants,
            [variant.name]: { folder: variant.folder, vanilla: variant.vanilla },
          },
        })
        // what was there is there, in its order, around one stretch of new text
        let head = 0
        while (head < source.length && source[head] === text[head]) head++
        expect(text.endsWith(source.slice(head))).toBe(true)
        parseConfig(text, 'anagnosis.yaml')
      }),
    )
  })

  test('a list of variants in braces is written anew, and all of them are there', () => {
    const text = withVariant('variants: { a: { folder: x, vanilla: "1" } }\n', {
      name: 'b',
      folder: 'y',
      vanilla: '4.10',
    })
    expect(parseConfig(text, 'anagnosis.yaml').variants).toEqual({
      a: { folder: 'x', vanilla: '1' },
      b: { folder: 'y', vanilla: '4.10' },
    })
  })
})

describe('where a game says its version', () => {
  function write(files: Record<string, string>): string {
    const at = mkdtempSync(join(folder, 'game-'))
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(at, path)), { recursive: true })
      writeFileSync(join(at, path), text)
    }
    return at
  }

  test.each<[Record<string, string>, string | undefined]>([
    [{ 'build.json': '{ "release": "4.1", "other": "4.2" }' }, 'build.json: release'],
    [{ 'deep/version.ini': '[game]\nversion = 4.1\n' }, 'deep/version.ini: game/version'],
    [
      { 'about.xml': '<game version="4.1"/>', 'mods/a/about.xml': '<mod game="4.1"/>' },
      'about.xml: @version',
    ],
    [{ 'build.json': '{ "a": "4.1", "b": "4.1" }' }, undefined],
    [{ 'rules.json': '{ "release": "4.1" }' }, undefined],
    [{ 'build.json': '{ broken' }, undefined],
  ])('%j', (files, expected) => {
    const at = write(files)
    const found = findVersionAt(at, Object.keys(files), '4.1', '.')
    expect(found).toBe(expected)
    if (found !== undefined) expect(installedVersion(at, parseVersionAt(found))).toBe('4.1')
  })

  test('a text file says it in its first word, a number as it stands, and what is not there says nothing', () => {
    const at = write({ 'version.txt': '4.10 (77)\n', 'build.json': '{ "build": 4.10 }' })
    expect(installedVersion(at, { path: 'version.txt', key: 'any' })).toBe('4.10')
    expect(installedVersion(at, { path: 'build.json', key: 'build' })).toBe('4.10')
    expect(installedVersion(at, { path: 'none.json', key: 'build' })).toBeUndefined()
  })
})
