import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from 'vitest'
import { carryPaths } from '../../src/workspace/carry/carry-paths.ts'
import { CREW_FROM } from '../../src/workspace/carry/crew.ts'
import { temporaryFolder } from '../temporary.ts'

const crew = fileURLToPath(new URL('../../bin/crew-member.js', import.meta.url))

/** Three folders of as many files as make a crew worth its start, some of them with conflicts, lost brackets and capitals. */
function folders(): { old: string; new: string; mine: string; root: string } {
  const root = temporaryFolder('crew')
  const path = { root, old: join(root, 'old'), new: join(root, 'new'), mine: join(root, 'mine') }
  for (const side of ['old', 'new', 'mine'] as const) {
    for (let i = 0; i < CREW_FROM; i++) {
      const folder = join(path[side], String(i % 7))
      mkdirSync(folder, { recursive: true })
      const worth = side === 'old' || i % 3 > 0 ? i : side === 'new' ? i + 1 : i + 2
      const broken = side === 'mine' && i % 100 === 4 ? '' : '}'
      const name = side === 'mine' && i % 150 === 5 ? `File-${i}` : `file-${i}`
      writeFileSync(join(folder, `${name}.json`), `{ "worth": ${worth}, "i": ${i % 5} ${broken}\n`)
    }
  }
  return path
}

function contents(folder: string): Record<string, string> {
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
  return Object.fromEntries(
    files
      .filter((entry) => entry.isFile())
      .map((entry) => [entry.name, readFileSync(join(entry.parentPath, entry.name), 'utf8')]),
  )
}

test('a crew of threads comes to what one thread comes to, in the same order', async () => {
  const { root, ...inputs } = folders()
  const [alone, together] = [join(root, 'alone'), join(root, 'together')]
  const one = await carryPaths({ paths: { ...inputs, out: alone }, config: {}, replace: false })
  const done: number[] = []
  const all = await carryPaths({
    paths: { ...inputs, out: together },
    config: {},
    replace: false,
    crew,
    progress: (count) => done.push(count),
  })
  expect(all.report).toEqual(one.report)
  expect(one.report.problems.length).toBeGreaterThan(0)
  expect(contents(together)).toEqual(contents(alone))
  expect(done.at(-1)).toBe(CREW_FROM)
})

test('an interrupted crew leaves nothing', async () => {
  const { root, ...inputs } = folders()
  const before = readdirSync(root)
  const stop = new AbortController()
  const paths = { ...inputs, out: join(root, 'out') }
  const progress = (): void => {
    stop.abort()
  }
  const run = carryPaths({ paths, config: {}, replace: false, crew, signal: stop.signal, progress })
  await expect(run).rejects.toMatchObject({ name: 'AbortError' })
  expect(readdirSync(root)).toEqual(before)
})

/** One JSON file a side, so big that it is carried in a thread of its own. */
function bigFiles(): { root: string; old: string; new: string; mine: string } {
  const root = temporaryFolder('aside')
  const write = (side: string, worth: number): string => {
    const finds = Array.from({ length: 90_000 }, (_, id) => {
      const own = id === 40_000 ? worth : id
      return `{ "id": "find-${id}", "worth": ${own}, "bed": "sand" }`
    })
    const file = join(root, `${side}.json`)
    writeFileSync(file, `[\n${finds.join(',\n')}\n]\n`)
    return file
  }
  return { root, old: write('old', 1), new: write('new', 2), mine: write('mine', 3) }
}

test('a big text is carried in a thread of its own, and comes to the same', async () => {
  const { root, ...inputs } = bigFiles()
  const carry = (out: string, entry?: string): ReturnType<typeof carryPaths> =>
    carryPaths({
      paths: { ...inputs, out: join(root, out, 'a.json') },
      config: {},
      replace: false,
      ...(entry === undefined ? {} : { crew: entry }),
    })
  const [alone, aside] = [await carry('alone'), await carry('aside', crew)]
  expect(alone.report.files[0]?.conflicts).toHaveLength(1)
  expect(aside.report).toEqual(alone.report)
  const result = (out: string): string => readFileSync(join(root, out, 'a.json'), 'utf8')
  expect(result('aside')).toBe(result('alone'))
})

test('while a big text is carried the thread that waits hears when it is to end', async () => {
  const { root, ...inputs } = bigFiles()
  const before = readdirSync(root)
  const stop = new AbortController()
  const paths = { ...inputs, out: join(root, 'out.json') }
  const run = carryPaths({ paths, config: {}, replace: false, crew, signal: stop.signal })
  setTimeout(() => {
    stop.abort()
  }, 20)
  await expect(run).rejects.toThrow(/abort/i)
  expect(readdirSync(root)).toEqual(before)
})
