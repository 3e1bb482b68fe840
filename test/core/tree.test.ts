import fc from 'fast-check'
import { expect, test } from 'vitest'
import { firstNotBefore } from '../../src/core/document/ascending.ts'
import { NodeRanges } from '../../src/core/document/node-ranges.ts'
import { Stretches } from '../../src/core/document/stretches.ts'
import type { Tree } from '../../src/core/document/tree.ts'
import { json } from '../../src/core/formats/json/index.ts'

const ascending = fc
  .uniqueArray(fc.nat(60), { maxLength: 20 })
  .map((numbers) => numbers.sort((a, b) => a - b))

test('the first number that is not before a value is found by halves as it is one by one', () => {
  fc.assert(
    fc.property(ascending, fc.nat(70), (numbers, value) => {
      const found = numbers.findIndex((each) => each >= value)
      expect(firstNotBefore(numbers, value)).toBe(found < 0 ? numbers.length : found)
    }),
  )
})

/** Finds in a document, each an object with a list in it, and for each whether it is left out. */
const lists = fc.array(fc.tuple(fc.nat(3), fc.boolean()), { minLength: 1, maxLength: 12 })
const written = (sizes: readonly number[]): string =>
  `{ "finds": [${sizes.map((size) => `{ "parts": [${new Array(size).fill('1').join(', ')}] }`).join(', ')}], "end": 0 }`

interface Parted {
  whole: Tree
  ranges: NodeRanges
  /** The same ranges as stretches that were left out. */
  stretches: Stretches
}

/** A tree, and those of its finds that are to be left out. */
function parted(finds: readonly (readonly [size: number, isOut: boolean])[]): Parted {
  const { tree: whole } = json.read(written(finds.map(([size]) => size)))
  const [ranges, stretches] = [new NodeRanges(), new Stretches()]
  let node = 4
  for (const [, isOut] of finds) {
    const next = whole.next[node] ?? 0
    if (isOut) {
      stretches.add(node - ranges.before(node), node, next, whole.start[node] ?? 0)
      ranges.add(node, next)
    }
    node = next
  }
  return { whole, ranges, stretches }
}

const texts = (tree: Tree): string[] =>
  Array.from({ length: tree.length }, (_, node) => tree.slice(node))
test('a tree without some nodes has the others, each before the one that follows it', () => {
  fc.assert(
    fc.property(lists, (finds) => {
      const { whole, ranges } = parted(finds)
      const isOut = (node: number): boolean =>
        ranges.from.some((from, i) => from <= node && node < (ranges.stop[i] ?? 0))
      const tree = whole.without(ranges)
      const stays = Array.from({ length: whole.length }, (_, node) => node).filter(
        (node) => !isOut(node),
      )
      expect(texts(tree)).toEqual(stays.map((node) => whole.slice(node)))
      const staysBefore = (node: number): number => stays.filter((each) => each < node).length
      expect([...tree.next.subarray(0, tree.length)]).toEqual(
        stays.map((node) => staysBefore(whole.next[node] ?? 0)),
      )
      for (const node of stays)
        expect(texts(tree)[node - ranges.before(node)]).toBe(whole.slice(node))
    }),
  )
})

test('what was left out is put in again where it stood, and is known by its origin', () => {
  fc.assert(
    fc.property(lists, (finds) => {
      const { whole, ranges, stretches } = parted(finds)
      const again = whole.without(ranges).with(whole, stretches)
      expect(texts(again)).toEqual(texts(whole))
      expect([...again.next.subarray(0, again.length)]).toEqual([
        ...whole.next.subarray(0, whole.length),
      ])
      for (let node = 0; node < again.length; node++) {
        const around = stretches.around(node)
        expect(again.originOf(node, whole)).toBe(around < 0 ? -1 : node)
      }
    }),
  )
})
