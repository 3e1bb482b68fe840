import fc from 'fast-check'
import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { MINE } from '../../../src/core/document/sides.ts'
import { readDoc } from '../../../src/core/formats/doc.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { documentKeys } from '../../../src/core/identity/document-keys.ts'
import { Identities } from '../../../src/core/identity/identities.ts'
import { everyKey } from '../../../src/core/plan/every-key.ts'
import { SHORT } from '../laws/list-laws.ts'
import { FAMILIES, canHold, listStory, written } from '../laws/lists.ts'
import { PLAIN, stories } from '../laws/model.ts'
import { renderers } from '../laws/render.ts'
import { RUNS } from '../laws/runs.ts'

/** The keys of a text by itself, in two ways: as they are told of one document, and as a carry tells them. */
function bothWays(name: FormatName, text: string): [string[], string[]] {
  const format = formatNamed(name)
  const doc = readDoc(format, text)
  if (doc === undefined) throw new Error(`no document: ${text}`)
  const keys = documentKeys(doc, new Identities([doc], new Map()))
  const carried = everyKey([doc, doc, doc], [false, false, true], new Identities([doc], new Map()))
  const shown = (key: string, node: number): string => `${key} ${doc.tree.start(node)}`
  return [
    keys.map(({ key, node }) => shown(key, node)).sort(),
    [...carried].map(({ key, nodes }) => shown(key, nodes[MINE])).sort(),
  ]
}

test.each(renderers)('the keys of one document are those of a carry of it: $name', (renderer) => {
  fc.assert(
    fc.property(stories(renderer.depth), ({ mine }) => {
      const [keys, carried] = bothWays(renderer.name, renderer.render(mine, PLAIN))
      expect(keys).toEqual(carried)
    }),
    RUNS,
  )
})

test.each(FAMILIES)('and of a list of $name', (family) => {
  for (const name of ['xml', 'json', 'ini'] as const) {
    if (!canHold(name, family)) continue
    for (let seed = 1; seed <= 20; seed++) {
      const [keys, carried] = bothWays(name, written(listStory(seed, family, SHORT).mine, name))
      expect(keys).toEqual(carried)
    }
  }
})

test('a key that a carry names is one that the document has', () => {
  const texts = [
    '<finds><find id="a"><worth>1</worth></find><find id="b"/></finds>',
    '<finds><find id="a"><worth>2</worth></find><find id="b"/></finds>',
    '<finds><find id="a"><worth>3</worth></find><find id="b"/></finds>',
  ] as const
  const { conflicts } = carryText([...texts], { format: formatNamed('xml'), path: 'a' })
  const [, , mine] = texts
  const [keys] = bothWays('xml', mine)
  expect(keys.map((key) => key.split(' ')[0])).toContain(conflicts[0]?.key)
})
