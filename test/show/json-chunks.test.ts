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

test('a long list is many pieces, and so is a list of long lists', () => {
  const rows = (count: number): unknown[] =>
    Array.from({ length: count }, (_, i) => ({ key: `find[${i}]`, was: undefined, in: [i, []] }))
  for (const value of [
    { files: [{ changes: rows(9000) }] },
    { files: Array.from({ length: 70 }, (_, i) => ({ changes: rows(i * 10), conflicts: [] })) },
  ]) {
    const chunks = [...jsonChunks(value)]
    expect(chunks.length).toBeGreaterThan(30)
    expect(Math.max(...chunks.map((chunk) => chunk.length))).toBeLessThan(100_000)
    expect(chunks.join('')).toBe(JSON.stringify(value, null, 2))
  }
})
