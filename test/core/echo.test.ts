import fc from 'fast-check'
import { expect, test, vi } from 'vitest'
import { Tree } from '../../src/core/document/tree.ts'
import type { Format } from '../../src/core/formats/format.ts'
import { json } from '../../src/core/formats/json/index.ts'
import { xml } from '../../src/core/formats/xml/index.ts'

/** What is long enough to be compared with its like before it is scanned. */
const LONG = 'It was lost with the third convoy and never found again, they say.'

interface Find {
  name: string
  worth: number
  parts: readonly Find[]
}

const { find } = fc.letrec<{ find: Find }>((tie) => ({
  find: fc.record({
    name: fc.constantFrom('lamp', 'bell', 'clasp', 'anchor'),
    worth: fc.integer({ min: 0, max: 3 }),
    parts: fc.oneof(
      { depthSize: 'small' },
      fc.constant([]),
      fc.array(tie('find'), { maxLength: 4 }),
    ),
  }),
}))

const finds = fc.array(find, { maxLength: 12 })
/** Two releases: the second keeps most of the first, in its order or not. */
const releases = fc.tuple(finds, finds, fc.infiniteStream(fc.nat(9))).map(([old, added, dice]) => {
  const roll = (): number => dice.next().value ?? 0
  const kept = old.filter(() => roll() > 0)
  for (const each of added) if (roll() > 5) kept.splice(roll(), 0, each)
  return [old, kept] as const
})

const asXml = ({ name, worth, parts }: Find): string =>
  `<find id="${name}"><worth>${worth}</worth><!-- ${LONG} --><note>${LONG}</note>${parts.map(asXml).join('\n')}</find>`
const asJson = ({ name, worth, parts }: Find): string =>
  `{ "id": "${name}", "worth": ${worth}, "note": "${LONG}", "parts": [${parts.map(asJson).join(', ')}] }`

function nodesOf({ kind, start, end, nameEnd, bodyStart, bodyEnd, next, length }: Tree): unknown {
  const arrays = { kind, start, end, nameEnd, bodyStart, bodyEnd, next }
  return Object.fromEntries(
    Object.entries(arrays).map(([name, array]) => [name, [...array.subarray(0, length)]]),
  )
}

/** A tree with what is left out of it put in. */
function whole(tree: Tree): Tree {
  return tree.left === undefined ? tree : tree.with(tree.left.of, tree.left.stretches)
}

/** So many finds make a document long enough to leave out what it shares with another. */
const MANY: Find[] = Array.from({ length: 700 }, (_, i) => ({ name: `m${i}`, worth: i, parts: [] }))

test.each<[Format, (release: readonly Find[]) => string]>([
  [xml, (release) => `<finds>\n${release.map(asXml).join('\n')}\n</finds>`],
  [json, (release) => `{ "finds": [${release.map(asJson).join(', ')}] }`],
  [json, (release) => `{${release.map((each, i) => `"${i % 7}": ${asJson(each)}`).join(', ')}}`],
])('what is read after its like has the nodes that it has alone (%#)', (format, write) => {
  const copied = vi.spyOn(Tree.prototype, 'copy')
  fc.assert(
    fc.property(releases, fc.nat(), fc.boolean(), ([old, fresh], place, isCut) => {
      const reader = format.reader([])
      const like = reader.read(write(old))
      const whole = write(fresh)
      const source = isCut ? whole.slice(0, place % whole.length) : whole
      const alone = reader.read(source)
      const after = reader.read(source, like)
      expect(nodesOf(after.tree)).toEqual(nodesOf(alone.tree))
      expect(after.problems).toEqual(alone.problems)
    }),
  )
  expect(copied).toHaveBeenCalled()
  copied.mockRestore()
})

test.each<[Format, (release: readonly Find[]) => string]>([
  [xml, (release) => `<finds>\n${release.map(asXml).join('\n')}\n</finds>`],
  [json, (release) => `{ "finds": [${release.map(asJson).join(', ')}], "end": {} }`],
])('what is left out of a long document is put in where it stands (%#)', (format, write) => {
  let leftOut = 0
  fc.assert(
    fc.property(releases, fc.nat({ max: MANY.length }), ([old, fresh], place) => {
      const among = (some: readonly Find[]): string =>
        write([...MANY.slice(0, place), ...some, ...MANY.slice(place)])
      const reader = format.reader([])
      const alone = reader.read(among(fresh))
      const after = reader.read(among(fresh), reader.read(among(old)))
      if (after.tree.length < alone.tree.length) leftOut++
      expect(nodesOf(whole(after.tree))).toEqual(nodesOf(alone.tree))
    }),
    { numRuns: 25 },
  )
  expect(leftOut).toBe(25)
})
