import { spawnSync } from 'node:child_process'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from 'vitest'
import { temporaryFolder } from './temporary.ts'

const DEMO = fileURLToPath(new URL('../demo', import.meta.url))

test('the demo data is what its generator writes, byte for byte', () => {
  const folder = temporaryFolder('demo')
  expect(spawnSync(process.execPath, [join(DEMO, 'generate.js'), folder]).status).toBe(0)
  const names = (root: string): string[] =>
    readdirSync(root, { recursive: true, encoding: 'utf8' })
      .filter((name) => statSync(join(root, name)).isFile())
      .sort()
  expect(names(folder)).toEqual(names(join(DEMO, 'data')))
  for (const name of names(folder)) {
    expect(
      readFileSync(join(folder, name)).equals(readFileSync(join(DEMO, 'data', name))),
      name,
    ).toBe(true)
  }
})
