import { join, posix } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { execFileSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Failure } from '../../src/workspace/failure.ts'
import { openSource } from '../../src/workspace/source/open-source.ts'
import { linkStaysInside, safePath, unholdable } from '../../src/workspace/source/safe-path.ts'
import { temporaryFolder } from '../temporary.ts'
import { writeTar, writeZip } from './archives.ts'

const folder = temporaryFolder('source')

const step = fc.constantFrom('a', 'rules', '..', '.', '', 'b.ini', 'C:', 'ü', '...', '..x')
const paths = fc
  .tuple(
    fc.constantFrom('', '/', '\\', 'C:', './'),
    fc.array(step, { minLength: 1, maxLength: 6 }),
    fc.constantFrom('/', '\\'),
  )
  .map(([start, steps, slash]) => start + steps.join(slash))

describe('paths of archives', () => {
  test('what is taken stays inside, and is given with slashes and nothing to resolve', () => {
    fc.assert(
      fc.property(paths, (path) => {
        const slashed = path.replaceAll('\\', '/')
        const leaves =
          slashed.startsWith('/') || /^[A-Za-z]:/.test(slashed) || slashed.split('/').includes('..')
        try {
          const taken = safePath(path, 'a.zip')
          expect(leaves).toBe(false)
          expect(posix.resolve('/in', taken).startsWith('/in')).toBe(true)
          expect(taken === '' || posix.normalize(taken) === taken).toBe(true)
        } catch (error) {
          expect(error).toBeInstanceOf(Failure)
          expect((error as Failure).exit).toBe(4) // what safePath throws is a Failure
          expect(leaves).toBe(true)
        }
      }),
    )
  })

  test('a link stays inside exactly where it leads there', () => {
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 3 }),
        fc.array(step, { maxLength: 5 }),
        (at, to) => {
          const path = [...at.filter((each) => /^[a-z]/.test(each)), 'link'].join('/')
          const target = to.join('/')
          // never above the folder on the way, even if it comes back
          let depth = path.split('/').length - 1
          let isInside = !target.startsWith('/') && !/^[A-Za-z]:/.test(target)
          for (const each of target.split('/')) {
            depth += each === '..' ? -1 : each === '' || each === '.' ? 0 : 1
            if (depth < 0) isInside = false
          }
          expect(linkStaysInside(path, target)).toBe(isInside)
        },
      ),
    )
  })

  test.each([
    ['rules/sea.ini', undefined],
    ['rules/con.ini', 'a device'],
    ['AUX', 'a device'],
    ['com1.txt', 'a device'],
    ['comet.txt', undefined],
    ['a/what?.ini', 'a character'],
    ['a/trailing.', 'a dot or a blank'],
    ['a /b.ini', 'a dot or a blank'],
    [`${'x'.repeat(256)}.ini`, 'more than 255'],
  ])('whether Windows can hold %s', (path, why) => {
    if (why === undefined) expect(unholdable(path)).toBeUndefined()
    else expect(unholdable(path)).toContain(why)
  })
})

describe('sources', () => {
  const contents = fc.dictionary(
    fc.stringMatching(/^[a-z]{1,5}(\/[a-z]{1,5}){0,2}\.(ini|bin)$/),
    fc.uint8Array({ maxLength: 3000 }).map((bytes) => Buffer.from(bytes)),
    { minKeys: 1, maxKeys: 6 },
  )

  async function read(named: string): Promise<Record<string, string>> {
    const found: Record<string, string> = {}
    const source = await openSource(named)
    await source.read(
      async ({ path, content }) => {
        if (content.kind === 'file')
          found[path] = (await buffer(await content.open())).toString('base64')
      },
      () => undefined,
    )
    return found
  }

  test('zip, tar, folder and git give the same bytes, whatever they are', async () => {
    let run = 0
    await fc.assert(
      fc.asyncProperty(contents, async (files) => {
        const paths = Object.keys(files)
        // no path may be a folder of another
        fc.pre(paths.every((path) => !paths.some((other) => other.startsWith(`${path}/`))))
        const at = join(folder, String(run++))
        for (const [path, bytes] of Object.entries(files)) {
          mkdirSync(join(at, 'tree', path, '..'), { recursive: true })
          writeFileSync(join(at, 'tree', path), bytes)
        }
        await writeZip(join(at, 'a.zip'), files)
        writeTar(
          join(at, 'a.tgz'),
          Object.entries(files).map(([path, content]) => ({ path, content })),
        )
        const git = (...args: string[]): void => {
          const identity = ['-c', 'user.name=a', '-c', 'user.email=a@b', '-c', 'core.autocrlf=true']
          execFileSync('git', ['-C', join(at, 'tree'), ...identity, ...args], { stdio: 'ignore' })
        }
        const expected = Object.fromEntries(
          Object.entries(files).map(([path, bytes]) => [path, bytes.toString('base64')]),
        )
        expect(await read(join(at, 'tree'))).toEqual(expected)
        expect(await read(join(at, 'a.zip'))).toEqual(expected)
        expect(await read(join(at, 'a.tgz'))).toEqual(expected)
        git('init', '-q')
        git('-c', 'core.autocrlf=false', 'add', '-f', '.')
        git('commit', '-qm', 'a')
        expect(await read(`${join(at, 'tree')}@HEAD`)).toEqual(expected)
      }),
      { numRuns: 12, seed: 4102 },
    )
  })

  test('what is nothing of the kind is refused in words', async () => {
    writeFileSync(join(folder, 'notes.txt'), 'hello')
    await expect(openSource(join(folder, 'notes.txt'))).rejects.toThrow(
      /neither a folder nor an archive/,
    )
    await expect(openSource(join(folder, 'nothing'))).rejects.toThrow(/there is no such file/)
    const source = await openSource(`${folder}@HEAD`)
    await expect(
      source.read(
        async () => undefined,
        () => undefined,
      ),
    ).rejects.toThrow(/is no git repository/)
  })
})
