import * as fs from 'node:fs'
import { mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { carryPaths } from '../../src/workspace/carry/carry-paths.ts'
import { Failure } from '../../src/workspace/failure.ts'
import type { DiskCalls } from '../../src/workspace/io/disk.ts'
import { temporaryFolder } from '../temporary.ts'

const CALLS = ['mkdirSync', 'openSync', 'writeSync', 'renameSync'] as const

function inputs(): {
  folder: string
  paths: { old: string; new: string; mine: string; out: string }
} {
  const folder = temporaryFolder('output')
  const place = (name: string, worth: number): string => {
    const path = join(folder, name)
    writeFileSync(path, `{"worth": ${worth}, "name": "${name}"}`)
    return path
  }
  const paths = {
    old: place('old.json', 1),
    new: place('new.json', 2),
    mine: place('mine.json', 1),
  }
  return { folder, paths: { ...paths, out: join(folder, 'out.json') } }
}

/** A disk on which one call fails as on a full one, the nth time it is made and no other. */
function failing(call: (typeof CALLS)[number], nth: number): DiskCalls {
  let made = 0
  const fails = (...args: unknown[]): unknown => {
    if (++made !== nth) return (fs[call] as (...all: unknown[]) => unknown)(...args) // the call it stands for
    throw Object.assign(new Error('no space'), { code: 'ENOSPC' })
  }
  return { ...fs, [call]: fails }
}

test.each(CALLS)(
  'where %s finds the disk full, nothing is left and the old output stands',
  async (call) => {
    const { folder, paths } = inputs()
    writeFileSync(paths.out, 'before')
    const before = readdirSync(folder)
    const run = carryPaths({ paths, config: {}, replace: true, disk: failing(call, 1) })
    await expect(run).rejects.toThrow(Failure)
    await expect(run).rejects.toThrow(/the disk is full/)
    await expect(run).rejects.toMatchObject({ exit: 5 })
    expect(readFileSync(paths.out, 'utf8')).toBe('before')
    expect(readdirSync(folder)).toEqual(before)
  },
)

test('where a new folder cannot take the place of the old, the old comes back', async () => {
  const { folder, paths } = inputs()
  for (const name of ['old', 'new', 'mine', 'out'] as const) {
    mkdirSync(join(folder, name))
    renameSync(paths[name === 'out' ? 'old' : name], join(folder, name, 'a.json'))
    if (name === 'old') writeFileSync(paths.old, '{}')
  }
  const folders = {
    old: join(folder, 'old'),
    new: join(folder, 'new'),
    mine: join(folder, 'mine'),
    out: join(folder, 'out'),
  }
  const before = readdirSync(folder)
  const run = carryPaths({
    paths: folders,
    config: {},
    replace: true,
    disk: failing('renameSync', 2),
  })
  await expect(run).rejects.toMatchObject({ exit: 5 })
  expect(readdirSync(folder)).toEqual(before)
  expect(readFileSync(join(folder, 'out', 'a.json'), 'utf8')).toBe('{}')
})

test('an interruption leaves nothing', async () => {
  const { folder, paths } = inputs()
  const before = readdirSync(folder)
  const signal = AbortSignal.abort()
  await expect(carryPaths({ paths, config: {}, replace: false, signal })).rejects.toMatchObject({
    name: 'AbortError',
  })
  expect(readdirSync(folder)).toEqual(before)
})

test('two runs do not write to one output at once; one that was killed keeps nobody waiting', async () => {
  const { folder, paths } = inputs()
  const marked = (pid: number): string =>
    join(folder, `.out.json.anagnosis-${pid.toString(36)}-1.run`)
  writeFileSync(marked(process.pid), '')
  const before = readdirSync(folder)
  await expect(carryPaths({ paths, config: {}, replace: true })).rejects.toMatchObject({
    code: 'out/in-use',
    exit: 4,
  })
  expect(readdirSync(folder)).toEqual(before)
  fs.rmSync(marked(process.pid))
  // no system gives a process this number
  writeFileSync(marked(2 ** 30), '')
  await carryPaths({ paths, config: {}, replace: true })
  expect(readFileSync(paths.out, 'utf8')).toContain('"worth": 2')
})
