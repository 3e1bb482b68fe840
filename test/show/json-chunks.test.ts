import fc from 'fast-check'
import { expect, test } from 'vitest'
import { jsonChunks } from '../../src/show/json-chunks.ts'

test('what is printed in pieces is what would be printed as one', () => {
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 8 }), (value) => {
      expect([...jsonChunks(value)].join('')).toBe(JSON.stringify(value, null, 2))
    }),
  )
})

test('a long list is many pieces', () => {
  const rows = Array.from({ length: 1000 }, (_, i) => ({ key: `find[${i}]`, was: undefined }))
  const chunks = [...jsonChunks({ files: [{ changes: rows }] })]
  expect(chunks.length).toBeGreaterThan(1000)
  expect(Math.max(...chunks.map((chunk) => chunk.length))).toBeLessThan(100)
  expect(chunks.join('')).toBe(JSON.stringify({ files: [{ changes: rows }] }, null, 2))
})
