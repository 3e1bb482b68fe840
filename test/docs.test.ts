import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from 'vitest'

const ROOT = fileURLToPath(new URL('..', import.meta.url))
const read = (path: string): string => readFileSync(join(ROOT, path), 'utf8')

function sources(): string {
  const files = readdirSync(join(ROOT, 'src'), { recursive: true, encoding: 'utf8' })
  return files
    .filter((file) => file.endsWith('.ts'))
    .map((file) => read(join('src', file)))
    .join('\n')
}

test('the reference lists every problem that a file or a workspace can have, and no other', () => {
  const inCode = new Set(
    sources().match(
      /(?<=')(?:xml|json|ini|carry|file|text|source|vanilla|variant|workspace|setup|backup|state)\/[a-z0-9-]+(?=')/g,
    ),
  )
  for (const take of ['vanilla', 'mine']) inCode.add(`carry/take-${take}`)
  const inDocs = new Set(
    [
      ...read('docs/reference.md').matchAll(
        /^\| `((?:xml|json|ini|carry|file|text|source|vanilla|variant|workspace|setup|backup|state)\/[a-z0-9-]+)` *\|/gm,
      ),
    ].map((row) => row[1]),
  )
  expect([...inDocs].sort()).toEqual([...inCode].sort())
})

test('every screenshot is linked from the README', () => {
  const readme = read('README.md')
  const shots = readdirSync(join(ROOT, 'docs', 'screenshots'))
  expect(shots.filter((shot) => !readme.includes(`docs/screenshots/${shot}`))).toEqual([])
})
