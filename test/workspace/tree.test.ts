import { chmodSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { modeOf, readContent } from '../../src/workspace/tree.ts'
import { temporaryFolder } from '../temporary.ts'

const root = temporaryFolder('tree')

test.each([0, 1, 4095, 4096, 100_000])(
  'a file of %i bytes is read whole, with its mode',
  (size) => {
    const location = join(root, `${size}.bin`)
    const bytes = Buffer.alloc(size, 'salt')
    writeFileSync(location, bytes)
    chmodSync(location, 0o750)
    const content = readContent(location)
    expect(content.bytes.equals(bytes)).toBe(true)
    expect(content.mode).toBe(modeOf({ kind: 'file', location }))
  },
)

test.runIf(process.platform === 'linux')('what tells no size is read to its end', () => {
  const { bytes } = readContent('/proc/self/status')
  expect(bytes.length).toBeGreaterThan(100)
  expect(bytes.toString('utf8')).toMatch(/^Name:.*\n$/s)
})
