import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import { expect, test, vi } from 'vitest'
import { listBackups, makeBackup, thinBackups } from '../../src/workspace/backup/backup.ts'
import { parseConfig } from '../../src/workspace/config/config.ts'
import { Failure } from '../../src/workspace/failure.ts'
import type { Disk } from '../../src/workspace/io/disk.ts'
import { setUp } from '../../src/workspace/setup/setup.ts'
import { StateLayout } from '../../src/workspace/state/layout.ts'
import { addRelease } from '../../src/workspace/store/add-release.ts'
import { removeRelease } from '../../src/workspace/store/remove-release.ts'
import { Store } from '../../src/workspace/store/store.ts'
import { verifyStore } from '../../src/workspace/store/verify-store.ts'
import { Workspace } from '../../src/workspace/workspace.ts'
import { temporaryFolder } from '../temporary.ts'
import { failEach } from './failing-disk.ts'

// what comes with the program stands beside the built one
vi.mock('../../src/workspace/shipped.ts', () => ({ shipped: (...path: string[]) => join(...path) }))

const NOW = new Date('2026-03-14T19:02:00')

function folder(files: Record<string, string> = {}): string {
  const root = temporaryFolder('full')
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(root, path)), { recursive: true })
    writeFileSync(join(root, path), text)
  }
  return root
}

/** More than is held in memory, so that it is written as it comes. */
const BIG = 'as heavy as an anchor\n'.repeat(120_000)
const RELEASE = { 'salvage/finds.xml': '<finds/>\n', 'rules/sea.ini': '[sea]\n', 'chart.bin': BIG }

/** All that is told of a full disk, wherever it was met. */
async function isTold(error: unknown): Promise<void> {
  if (!(error instanceof Failure) || error.exit !== 5) throw error
  expect((error as Failure).exit).toBe(5)
  expect((error as Failure).message).toContain('the disk is full')
  return Promise.resolve()
}

test('a release is taken in whole or not at all, whichever call finds the disk full', async () => {
  const state = folder()
  const [first, second] = [folder(RELEASE), folder({ ...RELEASE, 'rules/sea.ini': '[sea]\na=1\n' })]
  const add = (disk: Disk | undefined, label: string, source: string) =>
    addRelease(new Store(new StateLayout(state), disk), {
      label,
      sources: [source],
      trial: false,
      only: [],
      now: NOW,
    })
  await add(undefined, '4.1', first)
  const failed = await failEach(
    (disk) => add(disk, '4.2', second),
    async (error) => {
      await isTold(error)
      const store = new Store(new StateLayout(state))
      const releases = await store.releases()
      expect(releases.map(({ label }) => label)).toEqual(['4.1'])
      expect((await verifyStore(store, releases)).findings).toEqual([])
    },
    () => removeRelease(new Store(new StateLayout(state)), '4.2', []),
  )
  const store = new Store(new StateLayout(state))
  const releases = await store.releases()
  expect(releases.map(({ label }) => label)).toEqual(['4.1', '4.2'])
  expect((await verifyStore(store, releases)).findings).toEqual([])
  expect(readdirSync(store.layout.vanilla).filter((name) => /^incoming/.test(name))).toEqual([])
  expect(failed).toBeGreaterThan(6)
})

test('a release that cannot be removed wholly is in the store, or is not', async () => {
  const state = folder()
  const store = new Store(new StateLayout(state))
  const add = (label: string, files: Record<string, string>) =>
    addRelease(store, { label, sources: [folder(files)], trial: false, only: [], now: NOW })
  await add('4.1', RELEASE)
  await add('4.2', { 'a.ini': 'a = 2\n' })
  await failEach(
    (disk) => removeRelease(new Store(store.layout, disk), '4.2', []),
    async () => {
      const releases = await store.releases()
      expect(releases.map(({ label }) => label)).toContain('4.1')
      const { findings } = await verifyStore(store, releases)
      expect(findings).toEqual([])
      if (releases.length === 1) await add('4.2', { 'a.ini': 'a = 2\n' })
    },
  )
  expect((await store.releases()).map(({ label }) => label)).toEqual(['4.1'])
})

const CONFIG = `# ours\nvariants:\n  old-harbour: { folder: live, vanilla: "4.1" }\n`

test('a backup is there whole or not at all, and older ones stay', async () => {
  const root = folder({ 'anagnosis.yaml': CONFIG, 'live/a.ini': 'a = 1\n', 'live/b/c.ini': 'c\n' })
  mkdirSync(join(root, 'live', 'empty'))
  if (process.platform !== 'win32') symlinkSync('a.ini', join(root, 'live', 'link.ini'))
  const workspace = (disk?: Disk): Workspace =>
    new Workspace(root, parseConfig(CONFIG, 'anagnosis.yaml'), disk)
  const make = (on: Workspace) => makeBackup(on, on.variant('old-harbour'), { now: NOW })
  const { backup: known } = await make(workspace())
  const { layout } = workspace()
  const failed = await failEach(
    (disk) => make(workspace(disk)),
    async (error) => {
      await isTold(error)
      expect((await listBackups(layout)).map(({ name }) => name)).toEqual([known.name])
      expect(readFileSync(join(known.location, 'b', 'c.ini'), 'utf8')).toBe('c\n')
    },
    // a link that cannot be made is told, and the backup made without it
    async () => {
      for (const { location, name } of await listBackups(layout))
        if (name !== known.name) rmSync(location, { recursive: true })
    },
  )
  const all = await listBackups(layout)
  expect(all).toHaveLength(2)
  for (const { location } of all)
    expect(readFileSync(join(location, 'a.ini'), 'utf8')).toBe('a = 1\n')
  expect(failed).toBeGreaterThan(6)

  await failEach(
    (disk) => thinBackups(workspace(disk), 'old-harbour', 1, () => false),
    async () => {
      const kept = await listBackups(layout)
      expect(kept.length).toBeGreaterThanOrEqual(1)
      expect(existsSync(join(kept[0]?.location ?? '', 'a.ini'))).toBe(true)
    },
  )
  expect(await listBackups(layout)).toHaveLength(1)
})

test('the config is written whole or not at all, and what it was stays', async () => {
  const root = folder({ 'live/a.ini': 'a = 1\n', 'trench/a.ini': 'a = 2\n' })
  const path = join(root, 'anagnosis.yaml')
  const request = (variant: string, live: string, disk?: Disk) => ({
    root,
    variant,
    folder: join(root, live),
    vanilla: '4.1',
    source: undefined,
    game: 'Saltlantern',
    now: NOW,
    ...(disk === undefined ? {} : { disk }),
  })
  const failed = await failEach(
    (disk) => setUp(request('old-harbour', 'live', disk)),
    async (error) => {
      await isTold(error)
      const text = existsSync(path) ? readFileSync(path, 'utf8') : ''
      if (text !== '') expect(Object.keys(parseConfig(text, path).variants ?? {})).toHaveLength(1)
      rmSync(path, { force: true })
    },
  )
  expect(failed).toBeGreaterThan(4)
  const before = `${readFileSync(path, 'utf8')}# mine\n`
  writeFileSync(path, before)
  await failEach(
    (disk) => setUp(request('trench', 'trench', disk)),
    async (error) => {
      await isTold(error)
      const text = readFileSync(path, 'utf8')
      const count = Object.keys(parseConfig(text, path).variants ?? {}).length
      expect(text.includes('# mine')).toBe(true)
      expect(text === before).toBe(count === 1)
    },
  )
  const { variants = {} } = parseConfig(readFileSync(path, 'utf8'), path)
  expect(Object.keys(variants)).toEqual(['old-harbour', 'trench'])
})
