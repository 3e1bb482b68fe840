import { cpSync, mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Group } from '../../src/core/grouping/group.ts'
import { FileEdits } from '../../src/workspace/variant/file-edits.ts'
import { carryFile } from '../../src/workspace/carry/carry-file.ts'
import { touchOf } from '../../src/workspace/compare/touch.ts'
import { compareTrees } from '../../src/workspace/compare/whatsnew.ts'
import { guessFolder } from '../../src/workspace/guess.ts'
import { StateLayout } from '../../src/workspace/state/layout.ts'
import { addRelease } from '../../src/workspace/store/add-release.ts'
import { Store } from '../../src/workspace/store/store.ts'
import type { FileTree } from '../../src/workspace/tree.ts'
import { readTree } from '../../src/workspace/tree.ts'
import { temporaryFolder } from '../temporary.ts'
import type { Model } from '../core/laws/model.ts'
import { PLAIN, stories } from '../core/laws/model.ts'
import { renderers } from '../core/laws/render.ts'

const folder = temporaryFolder('compare')

let count = 0

function write(files: Record<string, string>): string {
  const at = join(folder, String(count++))
  mkdirSync(at)
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(at, path)), { recursive: true })
    writeFileSync(join(at, path), text)
  }
  return at
}

const treeOf = (files: Record<string, string>): FileTree => readTree(write(files))

/** What is told of groups, without the order of nothing but their examples. */
const told = (groups: readonly Group[]): unknown =>
  groups.map(({ kind, pattern, count: all, parts }) => ({
    kind,
    pattern,
    all,
    parts: parts.map(({ law, changes }) => ({ law, keys: changes.map(({ key }) => key) })),
  }))

describe('what is new', () => {
  test.each(renderers)('in $name: each change of the carry, once', async (renderer) => {
    await fc.assert(
      fc.asyncProperty(stories(renderer.depth), async ({ old, fresh }) => {
        const path = `salvage/finds.${renderer.name}`
        const texts = [renderer.render(old, PLAIN), renderer.render(fresh, PLAIN)] as const
        const news = await compareTrees(
          treeOf({ [path]: texts[0] }),
          treeOf({ [path]: texts[1] }),
          {},
        )
        const bytes = [Buffer.from(texts[0]), Buffer.from(texts[1]), Buffer.from(texts[0])] as const
        const { report } = await carryFile({
          path,
          bytes: [...bytes],
          rule: undefined,
          format: undefined,
        })
        const keys = news.groups.flatMap(({ parts }) =>
          parts.flatMap(({ changes }) => changes.map(({ key }) => key)),
        )
        expect(keys.sort()).toEqual(report.changes.map(({ key }) => key).sort())
        expect(Object.values(news.counts).reduce((a, b) => a + b)).toBe(
          report.counts.vanillaChanges,
        )
      }),
      { numRuns: 60, seed: 4102 },
    )
  })

  test('the order of the entries in both releases changes nothing', async () => {
    const [xml] = renderers
    if (xml === undefined) throw new Error('no renderer')
    const reversed = (model: Model): Model => ({ ...model, entries: [...model.entries].reverse() })
    await fc.assert(
      fc.asyncProperty(stories(xml.depth), async ({ old, fresh }) => {
        const news = async (a: Model, b: Model): Promise<unknown> => {
          const [before, after] = [a, b].map((model) =>
            treeOf({ 'f.xml': xml.render(model, PLAIN) }),
          )
          return told((await compareTrees(before ?? new Map(), after ?? new Map(), {})).groups)
        }
        const inOrder = (model: Model): Model => ({
          ...model,
          entries: [...model.entries].sort((a, b) => (a.id < b.id ? -1 : 1)),
        })
        const [a, b] = [inOrder(old), inOrder(fresh)]
        expect(await news(reversed(a), reversed(b))).toEqual(await news(a, b))
      }),
      { numRuns: 60, seed: 4102 },
    )
  })

  test('a file under another name, one that came, and one that cannot be read', async () => {
    const beds = Array.from({ length: 14 }, (_, i) => `<bed${i}>sand ${i}</bed${i}>`).join('')
    const find = (worth: number): string =>
      `<finds><find id="lamp"><worth>${worth}</worth><class>a</class>${beds}</find></finds>`
    const news = await compareTrees(
      treeOf({ 'a/finds.xml': find(1), 'rules.ini': 'a = 1\n', 'bad.json': '{}' }),
      treeOf({ 'b/finds.xml': find(2), 'rules.ini': 'a = 1\n', 'bad.json': '{', 'new.json': '{}' }),
      {},
    )
    expect(
      news.groups.map(({ kind, parts }) => [
        kind,
        parts[0]?.changes.map(({ key, was }) => [was, key]),
      ]),
    ).toEqual([
      ['file-added', [[undefined, 'new.json']]],
      ['file-renamed', [['a/finds.xml', 'b/finds.xml']]],
      ['changed', [[undefined, 'find/worth']]],
    ])
    expect(news.problems.map(({ path }) => path)).toEqual(['bad.json'])
    expect(news.files).toEqual({ changed: 3, all: 4 })
  })

  test('a name is new only where no file of its kind had it', async () => {
    const files = (fragile: readonly string[], others: string): Record<string, string> =>
      Object.fromEntries(
        ['lamp', 'bell', 'clasp', 'anchor', 'float'].map((name) => [
          `finds/${name}.json`,
          `{ "id": "${name}"${fragile.includes(name) ? ', "fragile": 35' : ''}${name === 'float' ? others : ''} }`,
        ]),
      )
    const kinds = async (others: string): Promise<string[]> => {
      const old = treeOf(files([], others))
      const fresh = treeOf(files(['lamp', 'bell', 'clasp'], others))
      return (await compareTrees(old, fresh, {})).groups.map(
        ({ kind, count: all }) => `${kind} ${all}`,
      )
    }
    expect(await kinds('')).toEqual(['new-name 3'])
    expect(await kinds(', "fragile": 10')).toEqual(['added 3'])
  })
})

describe('what an update does to a variant', () => {
  const old = {
    'rules/dive.json': '{ "limits": { "oxygen": 90, "charts": 12 }, "bends": [1, 2] }',
    'bin/a.ini': 'a = 1\n',
  }
  const fresh = {
    'rules/dive.json': '{ "limits": { "oxygen": 75, "charts": 14 }, "bends": [1, 2] }',
    'bin/a.ini': 'a = 2\n',
  }
  const mine = {
    'rules/dive.json': '{ "limits": { "oxygen": 120, "charts": 12 }, "bends": [1, 5] }',
    'bin/a.ini': 'a = 9\n',
  }

  test('what conflicts, what is carried, and what a policy wipes', async () => {
    const trees = [treeOf(old), treeOf(fresh), treeOf(mine)] as const
    const config = { files: [{ match: 'bin/**', take: 'vanilla' as const }] }
    const touch = await touchOf({ name: 'old-harbour', vanilla: '4.1' }, trees, { config })
    expect(touch.conflicts.map(({ key }) => key)).toEqual(['limits/oxygen'])
    expect(touch.wiped.map(({ path, key, mine: value }) => [path, key, value])).toEqual([
      ['bin/a.ini', 'a', '9'],
    ])
    expect(touch.counts).toEqual({ edits: 1, merging: 1, both: 0 })
  })

  test('of a sparse variant what is not there is not dropped', async () => {
    const trees = [treeOf(old), treeOf(fresh), treeOf({ 'bin/a.ini': 'a = 9\n' })] as const
    const sparse = await touchOf({ name: 's', vanilla: '4.1', sparse: true }, trees, { config: {} })
    expect(sparse.conflicts.map(({ path }) => path)).toEqual(['bin/a.ini'])
    const whole = await touchOf({ name: 's', vanilla: '4.1' }, trees, { config: {} })
    expect(whole.conflicts.map(({ path }) => path).sort()).toEqual(['bin/a.ini', 'rules/dive.json'])
  })
})

describe('edits that are gone', () => {
  const vanilla = 'x = 1\ny = 1\nz = 1\n'
  const kept = { bytes: Buffer.from('x = 5\ny = 5\nz = 1\n'), vanilla: Buffer.from(vanilla) }
  const edits = new FileEdits({
    path: 'a.ini',
    rule: undefined,
    releases: [Buffer.from(vanilla), Buffer.from('x = 2\ny = 1\nz = 1\n')],
  })
  const judged = async (
    live: string | undefined,
  ): Promise<{ wiped: string[]; isReset: boolean }> => {
    const bytes = live === undefined ? undefined : Buffer.from(live)
    const loss = await edits.loss(kept, bytes)
    const wiped = loss.wiped.map(({ key, value }) => `${key} ${value ?? ''}`)
    return { wiped, isReset: await edits.isReset(bytes, loss) }
  }

  test('are those that the live file has as some release has them, or all where it is missing', async () => {
    expect(await judged('x = 5\ny = 5\nz = 1\n')).toEqual({ wiped: [], isReset: false })
    expect(await judged(vanilla)).toEqual({ wiped: ['x 5', 'y 5'], isReset: true })
    expect(await judged('x = 1\ny = 5\nz = 7\n')).toEqual({ wiped: ['x 5'], isReset: false })
    // a value of a later release is no edit; one that no release has is
    expect(await judged('x = 2\ny = 5\nz = 7\n')).toEqual({ wiped: ['x 5'], isReset: false })
    expect(await judged('x = 8\ny = 5\nz = 1\n')).toEqual({ wiped: [], isReset: false })
    expect(await judged('x = 2\ny = 1\nz = 1\n')).toEqual({ wiped: ['y 5', 'x 5'], isReset: true })
    expect(await judged(undefined)).toEqual({ wiped: [' '], isReset: true })
  })

  test('tell a file that was reset from one that holds edits of its own', async () => {
    expect(await edits.hasOwn(kept, Buffer.from('x = 2\ny = 1\nz = 1\n'))).toBe(false)
    expect(await edits.hasOwn(kept, Buffer.from('x = 2\ny = 1\nz = 7\n'))).toBe(true)
    expect(await edits.hasEdits(Buffer.from('x=1\ny=1\nz=1\n'))).toBe(false)
    expect(await edits.hasEdits(kept.bytes)).toBe(true)
  })
})

describe('which vanilla a folder was made from', () => {
  test('is found however few edits it has, and a share that is too small is unknown', async () => {
    const store = new Store(new StateLayout(join(folder, 'guess-state')))
    const finds = (release: number, edits = 0): string =>
      `<finds>${Array.from({ length: 20 }, (_, i) => `<find id="f${i}"><worth>${i < edits ? 999 : i * release}</worth></find>`).join('')}</finds>`
    for (const release of [1, 2, 3]) {
      const source = write({ 'finds.xml': finds(release), 'same.ini': 'a = 1\n' })
      const request = {
        label: `4.${release}`,
        sources: [source],
        trial: false,
        only: [],
        now: new Date(0),
      }
      await addRelease(store, request)
    }
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 0, max: 20 }),
        async (release, edits) => {
          const at = write({ 'finds.xml': finds(release, edits), 'same.ini': 'a = 1\n' })
          const { files, release: guessed, isClean } = await guessFolder(store, at)
          const [file] = files
          // ids and worths are values alike; the first find's worth is 0 in every release
          const share = (40 - edits) / 40
          expect(file?.share).toBeCloseTo(edits === 0 ? 1 : share)
          const isTold = share >= 0.6
          const isOne = edits < 20
          expect(file?.releases).toEqual(
            !isTold ? [] : isOne ? [`4.${release}`] : expect.anything(),
          )
          if (isTold && isOne) expect([guessed, file?.differs]).toEqual([`4.${release}`, edits])
          expect(isClean).toBe(edits === 0)
        },
      ),
      { numRuns: 40, seed: 4102 },
    )
    const empty = await guessFolder(store, write({ 'own.ini': 'b = 1\n' }))
    expect([empty.release, empty.isClean, empty.files[0]?.isOwn]).toEqual([undefined, false, true])
    const copy = join(folder, 'copy')
    cpSync(write({ 'finds.xml': finds(2) }), copy, { recursive: true })
    expect((await guessFolder(store, copy)).missing).toEqual(['same.ini'])
  })
})
