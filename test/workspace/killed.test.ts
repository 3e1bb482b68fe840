import { cpSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { mkdirSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { expect, test } from 'vitest'
import { readConfig } from '../../src/workspace/config/config.ts'
import { openDraft } from '../../src/workspace/draft/draft.ts'
import type { Disk } from '../../src/workspace/io/disk.ts'
import { DISK } from '../../src/workspace/io/disk.ts'
import { deliver, endUnfinished } from '../../src/workspace/deliver/deliver.ts'
import { unfinishedVariants } from '../../src/workspace/deliver/journal.ts'
import { backupToRestore, restore } from '../../src/workspace/deliver/restore.ts'
import { settle } from '../../src/workspace/settle/settle.ts'
import type { StateLayout } from '../../src/workspace/state/layout.ts'
import { Store } from '../../src/workspace/store/store.ts'
import { addRelease } from '../../src/workspace/store/add-release.ts'
import { carryVariant } from '../../src/workspace/variant/carry-variant.ts'
import { Workspace } from '../../src/workspace/workspace.ts'
import { temporaryFolder } from '../temporary.ts'
import { failingAt } from './failing-disk.ts'

const folder = (): string => temporaryFolder('killed')

function write(root: string, files: Record<string, string>): void {
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(root, path)), { recursive: true })
    writeFileSync(join(root, path), text)
  }
}

const files = (root: string): Record<string, string> =>
  Object.fromEntries(
    readdirSync(root, { recursive: true, encoding: 'utf8' })
      .filter((name) => statSync(join(root, name)).isFile())
      .map((name) => [name, readFileSync(join(root, name), 'utf8')]),
  )

const open = async (root: string, disk: Disk = DISK): Promise<Workspace> =>
  new Workspace(root, await readConfig(join(root, 'anagnosis.yaml')), disk)

const NOW = new Date(2026, 2, 14, 19, 2)

const carry = async (root: string, disk?: Disk): Promise<unknown> => {
  const workspace = await open(root, disk)
  const call = { to: '4.2', yes: true, dryRun: false, now: new Date() }
  return carryVariant(workspace, workspace.variant('harbour'), call)
}

const LIST = { alike: false }

async function addReleases(root: string, layout: StateLayout): Promise<void> {
  for (const [label, source] of [
    ['4.1', 'v1'],
    ['4.2', 'v2'],
  ] as const)
    await addRelease(new Store(layout), {
      label,
      sources: [join(root, source)],
      trial: false,
      only: [],
      now: NOW,
    })
}

/** A workspace with an open draft in which one file was edited by hand. */
async function workspace(): Promise<string> {
  const root = folder()
  write(root, {
    'v1/a.ini': 'a = 1\nb = 1\n',
    'v1/b.ini': 'a = 1\n',
    'v2/a.ini': 'a = 2\nb = 1\n',
    'v2/b.ini': 'a = 2\n',
    'live/a.ini': 'a = 3\nb = 1\n',
    'live/b.ini': 'a = 1\n',
    'anagnosis.yaml': "variants:\n  harbour: { folder: live, vanilla: '4.1' }\n",
  })
  const { layout } = await open(root)
  await addReleases(root, layout)
  await carry(root)
  const draft = await openDraft(layout, 'harbour')
  write(draft?.location ?? '', { 'b.ini': 'a = 7\n' })
  return root
}

async function draftOf(root: string): Promise<Record<string, string>> {
  const draft = await openDraft((await open(root)).layout, 'harbour')
  return draft === undefined ? {} : files(draft.location)
}

/** Does something to copies of a workspace, killed at each call that it makes in turn. */
async function killedEach(
  template: string,
  attempt: (root: string, disk: Disk) => Promise<unknown>,
  check: (root: string) => Promise<void>,
): Promise<number> {
  for (let nth = 1; ; nth++) {
    const root = folder()
    cpSync(template, root, { recursive: true })
    const disk = failingAt(nth, true)
    const isKilled = await attempt(root, disk).then(
      () => false,
      () => true,
    )
    rmSync(join(root, '.anagnosis/lock'), { recursive: true, force: true })
    await check(root)
    rmSync(root, { recursive: true, force: true })
    if (!isKilled && disk.made < nth) return nth - 1
  }
}

test('a carry that is killed anywhere leaves a draft that holds, with what was edited in it by hand', async () => {
  const template = await workspace()
  const live = files(join(template, 'live'))
  const killed = await killedEach(template, carry, async (root) => {
    expect(files(join(root, 'live'))).toEqual(live)
    const again = await open(root)
    await settle(again, again.variant('harbour'), LIST)
    expect(await draftOf(root)).toEqual({ 'a.ini': 'a = 3\nb = 1\n', 'b.ini': 'a = 7\n' })
    await carry(root)
    expect(await draftOf(root)).toEqual({ 'a.ini': 'a = 3\nb = 1\n', 'b.ini': 'a = 7\n' })
    expect(readdirSync(again.layout.drafts).filter((name) => name.endsWith('.json'))).toHaveLength(
      1,
    )
  })
  expect(killed).toBeGreaterThan(10)
})

test('an answer that is killed anywhere is given, or is not', async () => {
  const template = await workspace()
  const answer = async (root: string, disk: Disk): Promise<unknown> => {
    const busy = await open(root, disk)
    const call = { file: 'a.ini', key: 'a', take: 'vanilla', alike: false }
    return settle(busy, busy.variant('harbour'), call)
  }
  const outcomes = new Set<number>()
  await killedEach(template, answer, async (root) => {
    const again = await open(root)
    const state = await settle(again, again.variant('harbour'), LIST)
    const isClosed = state.closed.some(({ path }) => path === 'a.ini')
    outcomes.add(state.open)
    expect([state.open, await draftOf(root)]).toEqual([
      isClosed ? 0 : 1,
      { 'a.ini': `a = ${isClosed ? 2 : 3}\nb = 1\n`, 'b.ini': 'a = 7\n' },
    ])
    // what was written before it was told is no edit by hand
    const takes = state.closed.map(({ path, take }) => `${path} ${take}`)
    expect(takes).toEqual([...(isClosed ? ['a.ini vanilla'] : []), 'b.ini source:7'])
  })
  expect([...outcomes].sort()).toEqual([0, 1])
})

/** A workspace whose draft is ready: it writes, adds, removes and renames nothing that is not its own. */
async function ready(): Promise<string> {
  const root = await workspace()
  write(root, {
    'v2/new/c.ini': 'c = 1\n',
    'v1/old/d.ini': 'd = 1\n',
    'live/old/d.ini': 'd = 1\n',
    'live/saves/one.sav': 'x',
  })
  const { layout } = await open(root)
  rmSync(layout.vanilla, { recursive: true })
  await addReleases(root, layout)
  await carry(root)
  const again = await open(root)
  await settle(again, again.variant('harbour'), { file: 'a.ini', take: 'vanilla', alike: false })
  return root
}

const put = async (root: string, disk?: Disk): Promise<unknown> => {
  const busy = await open(root, disk)
  const call = {
    now: new Date(),
    dryRun: false,
    trialToo: false,
    despite: [],
    confirm: () => Promise.resolve(true),
  }
  const done = await deliver(busy, busy.variant('harbour'), call)
  expect(done.refusals).toEqual([])
  return done
}

const NEW_LIVE = {
  'a.ini': 'a = 2\nb = 1\n',
  'b.ini': 'a = 7\n',
  'new/c.ini': 'c = 1\n',
  'saves/one.sav': 'x',
}

test('a delivery that is killed anywhere is ended by --finish or --undo, and all is old or all is new', async () => {
  const template = await ready()
  const old = files(join(template, 'live'))
  const stood = readFileSync(join(template, 'anagnosis.yaml'), 'utf8')
  const ended = { finish: 0, undo: 0 }
  const killed = await killedEach(template, put, async (root) => {
    const again = await open(root)
    const isUnfinished = unfinishedVariants(again.layout).length > 0
    // either, from each kill in turn
    const how = ended.finish > ended.undo ? 'undo' : 'finish'
    if (isUnfinished) {
      ended[how]++
      await expect(carry(root)).rejects.toMatchObject({ code: 'deliver/unfinished' })
      await endUnfinished(again, again.variant('harbour'), how)
    }
    const live = files(join(root, 'live'))
    const isNew = 'new/c.ini' in live
    expect(live).toEqual(isNew ? NEW_LIVE : old)
    if (isUnfinished) expect(isNew).toBe(how === 'finish')
    const config = readFileSync(join(root, 'anagnosis.yaml'), 'utf8')
    expect(config).toBe(isNew ? stood.replace("'4.1'", '"4.2"') : stood)
    expect(unfinishedVariants(again.layout)).toEqual([])
  })
  expect([killed > 20, ended.undo > 8]).toEqual([true, true])
})

test('a delivery for which the disk is too full is put back by itself', async () => {
  const template = await ready()
  const old = files(join(template, 'live'))
  for (let nth = 1; ; nth++) {
    const root = folder()
    cpSync(template, root, { recursive: true })
    const disk = failingAt(nth)
    const isDone = await put(root, disk).then(
      () => true,
      () => false,
    )
    if (isDone && disk.made < nth) break
    const live = files(join(root, 'live'))
    expect(live).toEqual('new/c.ini' in live ? NEW_LIVE : old)
    if (!isDone) expect(unfinishedVariants((await open(root)).layout)).toEqual([])
    rmSync(root, { recursive: true, force: true })
  }
})

/** A disk on which another program holds the file `b.ini` open for so many tries, as it is on Windows. */
function heldOpen(tries: number): Disk {
  let left = tries
  return {
    ...DISK,
    renameSync(from, to) {
      if (String(to).endsWith('b.ini') && left-- > 0)
        throw Object.assign(new Error('EPERM: operation not permitted'), { code: 'EPERM' })
      DISK.renameSync(from, to)
    },
  }
}

test('a file that a program holds open is tried again; held for long, all is put back and the file is named', async () => {
  const root = await ready()
  const old = files(join(root, 'live'))
  await expect(put(root, heldOpen(Infinity))).rejects.toMatchObject({
    code: 'deliver/held-open',
    details: { path: 'b.ini', exit: 4 },
  })
  expect(files(join(root, 'live'))).toEqual(old)
  expect(unfinishedVariants((await open(root)).layout)).toEqual([])
  await put(root, heldOpen(3))
  expect(files(join(root, 'live'))).toEqual(NEW_LIVE)
})

test('a restore that is killed anywhere is ended, and what was live before comes back', async () => {
  const template = await ready()
  const before = files(join(template, 'live'))
  await put(template)
  const call = { now: new Date(), removeLater: true, confirm: () => Promise.resolve(true) }
  const back = async (root: string, disk?: Disk): Promise<unknown> => {
    const busy = await open(root, disk)
    const { backup, variant } = await backupToRestore(busy, undefined)
    return restore(busy, variant, backup, call)
  }
  await killedEach(template, back, async (root) => {
    const again = await open(root)
    const isUnfinished = unfinishedVariants(again.layout).length > 0
    if (isUnfinished) await endUnfinished(again, again.variant('harbour'), 'finish')
    const live = files(join(root, 'live'))
    const isBack = !('new/c.ini' in live)
    expect(live).toEqual(isBack ? before : NEW_LIVE)
    if (isUnfinished) expect(isBack).toBe(true)
  })
  // one that fails is as if it had not been
  await expect(back(template, failingAt(30))).rejects.toMatchObject({ code: 'system/enospc' })
  expect(files(join(template, 'live'))).toEqual(NEW_LIVE)
  // and another restore puts that back
  await back(template)
  expect(files(join(template, 'live'))).toEqual(before)
  await back(template)
  expect(files(join(template, 'live'))).toEqual(NEW_LIVE)
})
