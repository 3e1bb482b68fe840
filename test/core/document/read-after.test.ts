import fc from 'fast-check'
import { expect, test, vi } from 'vitest'
import { Tree } from '../../../src/core/document/tree.ts'
import type { Format } from '../../../src/core/formats/format.ts'
import { json } from '../../../src/core/formats/json/index.ts'
import { xml } from '../../../src/core/formats/xml/index.ts'
import { ALL_WAYS } from '../laws/short-ways.ts'

const NOTE = 'It was lost with the third convoy and never found again, they say.'

interface Find {
  name: string
  worth: number
  parts: readonly Find[]
}

const { find } = fc.letrec<{ find: Find }>((tie) => ({
  find: fc.record({
    name: fc.constantFrom('lamp', 'bell', 'clasp', 'anchor'),
    worth: fc.constantFrom(1, 12, 123, 2),
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
  `<find id="${name}"><worth>${worth}</worth><!-- ${NOTE} --><note>${NOTE}</note>${parts.map(asXml).join('\n')}</find>`
const asJson = ({ name, worth, parts }: Find): string =>
  `{ "id": "${name}", "worth": ${worth}, "note": "${NOTE}", "parts": [${parts.map(asJson).join(', ')}] }`
/** Numbers and words, of which one may begin another. */
const asItems = ({ name, worth, parts }: Find): string =>
  `["${name}", ${worth}, [${parts.map(({ worth: each }) => each).join(', ')}], ${worth}${parts.length % 2}, true]`

type Write = (release: readonly Find[]) => string

function nodesOf(tree: Tree): unknown {
  return Array.from({ length: tree.length }, (_, node) => [
    tree.kind(node),
    tree.start(node),
    tree.end(node),
    tree.nameEnd(node),
    tree.bodyStart(node),
    tree.bodyEnd(node),
    tree.next(node),
  ])
}

test.each<[Format, Write]>([
  [xml, (release) => `<finds>\n${release.map(asXml).join('\n')}\n</finds>`],
  [json, (release) => `{ "finds": [${release.map(asJson).join(', ')}] }`],
  [json, (release) => `{${release.map((each, i) => `"${i % 7}": ${asJson(each)}`).join(', ')}}`],
  [json, (release) => `[${release.map(asItems).join(', ')}]`],
  [json, (release) => `[${release.map(({ worth }) => worth).join(', ')}]`],
])('what is read after its like has the nodes that it has alone (%#)', (format, write) => {
  const copied = vi.spyOn(Tree.prototype, 'copy')
  fc.assert(
    fc.property(releases, fc.nat(), fc.boolean(), ([old, fresh], place, isCut) => {
      const reader = format.reader([])
      const before = { result: reader.read(write(old)), thresholds: ALL_WAYS }
      const whole = write(fresh)
      const source = isCut ? whole.slice(0, place % whole.length) : whole
      const alone = reader.read(source)
      const after = reader.read(source, before)
      expect(after.problems).toEqual(alone.problems)
      if (alone.problems.length > 0) return
      expect(nodesOf(after.tree)).toEqual(nodesOf(alone.tree))
      for (let node = 0; node < after.tree.length; node++) {
        const origin = after.tree.originOf(node, before.result.tree)
        if (origin >= 0) expect(before.result.tree.slice(origin)).toBe(after.tree.slice(node))
      }
    }),
  )
  expect(copied.mock.calls.length > 0).toBe(
    !/^\[[0-9]/.test(write([{ name: '', worth: 1, parts: [] }])),
  )
  copied.mockRestore()
})

test('a node that is not there is an error, and no wrong offset', () => {
  const { tree } = json.read('[1, 2]')
  const asked = [
    tree.kind,
    tree.start,
    tree.end,
    tree.nameEnd,
    tree.bodyStart,
    tree.bodyEnd,
    tree.next,
  ]
  for (const node of [-1, tree.length, NaN])
    for (const ask of asked) expect(() => ask.call(tree, node)).toThrow(RangeError)
})
