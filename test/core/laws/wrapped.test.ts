import assert from 'node:assert/strict'
import fc from 'fast-check'
import { describe, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { FORMAT_NAMES, formatNamed } from '../../../src/core/formats/index.ts'
import { dice } from './lists.ts'
import { RUNS } from './runs.ts'

// One side puts a new container around what a list holds; the other changes, drops and adds entries of the list. All
// that it did is in the new container, told by a note, whichever side put it there.

interface Entry {
  name: string
  price: number
  weight: number
  tags: readonly string[]
}
interface Shop {
  entries: readonly Entry[]
  isWrapped: boolean
  /** What stands beside the entries, before and behind them. */
  version: number
  motto: string
}

type Form = (shop: Shop) => string

const indented = (text: string, by: string): string =>
  text
    .split('\n')
    .map((line) => by + line)
    .join('\n')

/** Entries in their list, and that in the new container. */
const xml =
  (entry: (each: Entry) => string): Form =>
  ({ entries, isWrapped, version, motto }) => {
    const all = entries.map(entry).join('\n')
    const list = isWrapped
      ? `  <goods kind="all">\n${indented(all, '    ')}\n  </goods>`
      : indented(all, '  ')
    return `<shop>\n  <version>${version}</version>\n${list}\n  <motto>${motto}</motto>\n</shop>\n`
  }

const FORMS: Record<string, Form> = {
  'xml: entries with ids': xml(
    ({ name, price, weight, tags }) =>
      `<!-- ${name} -->\n<item id="${name}" price="${price}">\n  <weight>${weight}</weight>\n${tags.map((tag) => `  <tag>${tag}</tag>\n`).join('')}</item>`,
  ),
  'xml: entries without names': xml(
    ({ name, price, weight, tags }) =>
      `<item label="${name}" price="${price}" weight="${weight}" tags="${tags.join(' ')}"/>`,
  ),
  'xml: elements named as what they are': xml(
    ({ name, price, weight, tags }) =>
      `<${name}>\n  <price>${price}</price>\n  <weight>${weight}</weight>\n  <tags>${tags.join(' ')}</tags>\n</${name}>`,
  ),
  'json: an array': ({ entries, isWrapped, version, motto }) => {
    const rest = isWrapped ? { total: 1 } : {}
    const list = entries.map(({ name, ...each }) => ({ id: name, ...each }))
    const shop = isWrapped ? { ...rest, goods: list } : list
    return `${JSON.stringify({ version, shop, motto }, null, 2)}\n`
  },
  'json: members': ({ entries, isWrapped, version, motto }) => {
    const list = Object.fromEntries(entries.map(({ name, ...each }) => [name, each]))
    const shop = isWrapped ? { goods: list } : list
    return `${JSON.stringify({ shop: { version, ...shop, motto } }, null, 2)}\n`
  },
}

const NAMES = 'lamp rope net knife buoy hook mast keel sail oar tar cask bell chart pump winch'

/** What each makes of a shop: vanilla wraps, and changes other entries and the rest; mine edits the entries. */
function story(seed: number): { shops: Triple<Shop>; expected: Shop } {
  const roll = dice(seed)
  const names = NAMES.split(' ')
  const entry = (): Entry => ({
    name: names.splice(roll(names.length), 1)[0] ?? '',
    price: 100 + roll(900),
    weight: roll(3),
    tags: Array.from({ length: 1 + roll(3) }, () => ['wet', 'small', 'brass'][roll(3)] ?? ''),
  })
  const old = Array.from({ length: 3 + roll(5) }, entry)
  const changed = new Set(old.filter(() => roll(4) === 0).slice(0, old.length / 3))
  const byVanilla = (each: Entry): Entry =>
    changed.has(each) ? { ...each, weight: 10 + roll(9) } : each
  const fresh = new Map(old.map((each) => [each, byVanilla(each)]))
  const edits = old.map((each): ((now: Entry) => Entry[]) => {
    const kind = changed.has(each) ? 3 : roll(6)
    const [price, added] = [2000 + roll(100), kind === 2 ? entry() : undefined]
    if (kind === 0) return (now) => [{ ...now, price }]
    if (kind === 1) return () => []
    return (now) => (added === undefined ? [now] : [now, added])
  })
  const left = old.flatMap((each, at) => edits[at]?.(each) ?? [])
  const rest = { version: 4, motto: 'mind the reef', isWrapped: false }
  const wrapped = { version: 5, motto: 'mind the reef', isWrapped: true }
  const expected = old.flatMap((each, at) => edits[at]?.(fresh.get(each) ?? each) ?? [])
  return {
    shops: [
      { ...rest, entries: old },
      { ...wrapped, entries: [...fresh.values()] },
      { ...rest, entries: left, motto: 'mind the tide' },
    ],
    expected: { ...wrapped, entries: expected, motto: 'mind the tide' },
  }
}

describe.each(Object.entries(FORMS))('a list in %s', (name, form) => {
  const format = FORMAT_NAMES.find((each) => name.startsWith(each)) ?? 'xml'
  const carry = (texts: Triple<string>) =>
    carryText(texts, { format: formatNamed(format), path: `shop.${format}` })

  test('what the one side did to its entries is in the container that the other put around them', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const { shops, expected } = story(seed)
        const [old, fresh, mine] = shops.map(form) as [string, string, string]
        const { text, conflicts, problems } = carry([old, fresh, mine])
        assert.deepEqual(conflicts, [])
        assert.equal(text, form(expected))
        assert.deepEqual(
          problems.map(({ code }) => code),
          ['carry/wrapped'],
        )
        const back = carry([old, mine, fresh])
        assert.deepEqual([back.text, back.conflicts], [text, []])
        const again = carry([old, fresh, form(expected)])
        assert.deepEqual([again.text, again.conflicts], [text, []])
      }),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 3) },
    )
  })
})
