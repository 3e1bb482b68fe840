import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { nameOf } from '../../src/core/facts/release.ts'
import { withLock } from '../../src/workspace/io/lock.ts'
import { StateLayout } from '../../src/workspace/state/layout.ts'
import { addRelease } from '../../src/workspace/store/add-release.ts'
import { checkLabel, findRelease } from '../../src/workspace/store/release.ts'
import { removeRelease } from '../../src/workspace/store/remove-release.ts'
import { Store } from '../../src/workspace/store/store.ts'
import { verifyStore } from '../../src/workspace/store/verify-store.ts'
import { temporaryFolder } from '../temporary.ts'

const folder = temporaryFolder('store')

type Content = Record<string, string>

const release: fc.Arbitrary<Content> = fc.dictionary(
  fc.constantFrom('a.ini', 'rules/a.ini', 'rules/b.ini', 'salvage/finds.xml', 'x/y/z.json'),
  fc.constantFrom('', 'a = 1\n', 'a = 2\n', 'b = 1\n'.repeat(40)),
  { minKeys: 1 },
)

let count = 0

function writeFolder(content: Content): string {
  const at = join(folder, `source-${count++}`)
  for (const [path, text] of Object.entries(content)) {
    mkdirSync(dirname(join(at, path)), { recursive: true })
    writeFileSync(join(at, path), text)
  }
  return at
}

const newStore = (): Store => new Store(new StateLayout(join(folder, `state-${count++}`)))
const add = (
  store: Store,
  label: string,
  content: Content,
  more: { onto?: string; trial?: boolean } = {},
) =>
  addRelease(store, {
    label,
    sources: [writeFolder(content)],
    trial: false,
    only: [],
    now: new Date(0),
    ...more,
  })

async function contentOf(store: Store, name: string): Promise<Content | undefined> {
  const found = findRelease(await store.releases(), name)
  if (found === undefined) return undefined
  const files = await store.files(found)
  return Object.fromEntries(files.map((file) => [file.path, store.content(file)?.toString() ?? '']))
}

function objects({ layout }: Store): string[] {
  return readdirSync(layout.objects, { recursive: true, encoding: 'utf8' }).filter((name) =>
    /[/\\]/.test(name),
  )
}

describe('the store', () => {
  test('gives back what was taken in, keeps each content once, and forgets only what is removed', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(release, { minLength: 1, maxLength: 5 }),
        fc.nat(4),
        async (releases, gone) => {
          const store = newStore()
          for (const [i, content] of releases.entries()) await add(store, `4.${i}`, content)
          const distinct = (all: readonly Content[]): number =>
            new Set(all.flatMap((content) => Object.values(content))).size
          expect(objects(store)).toHaveLength(distinct(releases))
          const out = gone % releases.length
          await removeRelease(store, `4.${out}`, [])
          const kept = releases.filter((_, i) => i !== out)
          for (const [i, content] of releases.entries())
            expect(await contentOf(store, `4.${i}`)).toEqual(i === out ? undefined : content)
          if (kept.length > 0) expect(objects(store)).toHaveLength(distinct(kept))
          const { findings } = await verifyStore(store, await store.releases())
          expect(findings).toEqual([])
        },
      ),
      { numRuns: 25, seed: 4102 },
    )
  })

  test('an update stands on its release, whatever it holds', async () => {
    await fc.assert(
      fc.asyncProperty(release, release, async (before, update) => {
        const store = newStore()
        await add(store, '4.1', before)
        await add(store, '4.2', update, { onto: '4.1' })
        expect(await contentOf(store, '4.2')).toEqual({ ...before, ...update })
      }),
      { numRuns: 15, seed: 4102 },
    )
  })

  test('a trial has revisions, one for each time that it differs, and a label means the last', async () => {
    const store = newStore()
    const names: string[] = []
    for (const text of ['1', '2', '2', '1']) {
      const { release: taken, sameAs } = await add(store, '4.2', { 'a.ini': text }, { trial: true })
      names.push(`${nameOf(taken)}${sameAs === undefined ? '' : ' again'}`)
    }
    expect(names).toEqual(['4.2+1', '4.2+2', '4.2+2 again', '4.2+3'])
    expect(await contentOf(store, '4.2')).toEqual({ 'a.ini': '1' })
    await add(store, '4.2', { 'a.ini': 'final' })
    expect(await contentOf(store, '4.2')).toEqual({ 'a.ini': 'final' })
    await expect(add(store, '4.2', { 'a.ini': 'x' }, { trial: true })).rejects.toThrow(
      /final release/,
    )
  })

  test('each file that is altered or missing is found, in every release that has it', async () => {
    const store = newStore()
    await add(store, '4.1', { 'a.ini': 'same', 'b.ini': 'one' })
    await add(store, '4.2', { 'a.ini': 'same', 'b.ini': 'two' })
    const [first] = await store.files((await store.releases())[0] ?? never())
    writeFileSync(store.layout.object(first?.hash ?? ''), 'other')
    const { findings } = await verifyStore(store, await store.releases())
    expect(findings).toEqual([
      { release: '4.1', path: 'a.ini', what: 'altered' },
      { release: '4.2', path: 'a.ini', what: 'altered' },
    ])
    writeFileSync(
      store.layout.manifest((await store.releases())[1]?.manifest ?? ''),
      '{"schema":1,"files":[]}',
    )
    const again = await verifyStore(store, await store.releases())
    expect(again.findings).toContainEqual({ release: '4.2', path: '', what: 'altered' })
    // what it had is not known any more, so nothing is swept away with it
    const before = objects(store).length
    await removeRelease(store, '4.2', [])
    expect(objects(store).length).toBeLessThanOrEqual(before)
    expect(await contentOf(store, '4.1')).toEqual({ 'a.ini': 'other', 'b.ini': 'one' })
  })

  test('a release whose list is gone can be removed, and nothing else goes with it before', async () => {
    const store = newStore()
    await add(store, '4.1', { 'a.ini': 'one' })
    await add(store, '4.2', { 'a.ini': 'two' })
    rmSync(store.layout.manifest((await store.releases())[1]?.manifest ?? ''))
    await store.sweep()
    expect(objects(store)).toHaveLength(2)
    await removeRelease(store, '4.2', [])
    expect(objects(store)).toHaveLength(1)
    expect(await contentOf(store, '4.1')).toEqual({ 'a.ini': 'one' })
  })

  test.each(['', ' 4.1', '4.1 ', '4.1+2', '-4', 'a\nb'])('%j is no label', (label) => {
    expect(() => {
      checkLabel(label)
    }).toThrow(/cannot be the label/)
  })

  test.each(['4.10', 'v4.2-rc1', 'Tiefe 4', '4.2+hotfix'])('%j is a label', (label) => {
    expect(() => {
      checkLabel(label)
    }).not.toThrow()
  })
})

describe('the lock', () => {
  test('runs take their turn, and one that waits too long is refused', async () => {
    const root = join(folder, 'locked')
    const order: string[] = []
    const first = withLock(root, async () => {
      order.push('first in')
      await new Promise((resolve) => setTimeout(resolve, 300))
      order.push('first out')
    })
    await new Promise((resolve) => setTimeout(resolve, 30))
    await Promise.all([
      first,
      withLock(root, () => {
        order.push('second in')
        return Promise.resolve()
      }),
    ])
    expect(order).toEqual(['first in', 'first out', 'second in'])
    let release = (): void => undefined
    const held = withLock(root, () => new Promise<void>((resolve) => (release = resolve)))
    await new Promise((resolve) => setTimeout(resolve, 30))
    await expect(withLock(root, () => Promise.resolve())).rejects.toMatchObject({
      code: 'state/locked',
      exit: 4,
    })
    release()
    await held
  }, 30_000)
})

function never(): never {
  throw new Error('there is no release')
}
