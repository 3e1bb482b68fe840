import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { brokenTogether } from '../../../src/core/checks/together/index.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import type { Doc } from '../../../src/core/formats/doc.ts'
import { readDoc } from '../../../src/core/formats/doc.ts'
import { formatOfPath } from '../../../src/core/formats/detect.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { FileReport } from '../../../src/core/report/report.ts'
import { fileReport } from '../../../src/core/report/report.ts'
import { RUNS } from '../laws/runs.ts'

type Files = Record<string, Triple<string>>

const formatOf = (path: string): ReturnType<typeof formatNamed> =>
  formatNamed(formatOfPath(path) ?? 'json')

/** What the findings of a carry of some files say: path and key of each. */
function broken(files: Files): string[] {
  const reports: FileReport[] = []
  const docs = new Map<string, Doc | undefined>()
  for (const [path, texts] of Object.entries(files)) {
    const format = formatOf(path)
    const carried = carryText(texts, { format, path })
    const { changes, conflicts, identities } = carried
    const reading = { encoding: 'utf-8', dialect: '', identities }
    reports.push(
      fileReport({ path, format: format.name, outcome: 'merged' }, { changes, conflicts, reading }),
    )
    for (const [side, text] of [...texts, carried.text ?? ''].entries())
      docs.set(`${side} ${path}`, readDoc(format, text))
  }
  const identities = new Map(reports.map(({ path, reading }) => [path, reading?.identities]))
  return brokenTogether(reports, {
    input: (side, path) => docs.get(`${side} ${path}`),
    result: (path) => docs.get(`3 ${path}`),
    paths: () => new Set(Object.keys(files)),
    identity: (path) => identities.get(path) ?? new Map<string, string>(),
  }).map(({ path, key, line }) => `${path}:${line ?? 0} ${key}`)
}

interface Find {
  id: string
  least: number
  most: number
  low: number
  span: number
  worth: number
  weight: number
  slot: string
}

/** A find whose numbers are in order: least and most, the depths; worth and weight are of no order. */
const find = fc.record({
  least: fc.nat(20),
  most: fc.nat(30),
  low: fc.nat(90),
  span: fc.nat(60),
  worth: fc.nat(300),
  weight: fc.nat(40),
})

const finds = fc.array(find, { minLength: 4, maxLength: 30 }).map((all) =>
  all.map((each, i): Find => ({
    ...each,
    id: `find-${i}`,
    most: each.least + each.most,
    slot: `find-${(i * 7) % all.length}`,
  })),
)

const RENDER: Record<string, (all: readonly Find[]) => string> = {
  'finds.xml': (all) =>
    `<finds>\n${all.map((f) => ` <find id="${f.id}" worth="${f.worth}"><yield least="${f.least}" most="${f.most}"/><depth low="${f.low}" high="${f.low + f.span}"/><weight>${f.weight}</weight><by>${f.slot}</by></find>\n`).join('')}</finds>\n`,
  'finds.json': (all) =>
    `[\n${all.map((f) => ` { "id": "${f.id}", "worth": ${f.worth}, "leastYield": ${f.least}, "mostYield": ${f.most}, "depth": { "low": ${f.low}, "high": ${f.low + f.span} }, "weight": ${f.weight}, "by": "${f.slot}" }`).join(',\n')}\n]\n`,
  'finds.ini': (all) =>
    all
      .map(
        (f) =>
          `[${f.id}]\nworth = ${f.worth}\nyield_least = ${f.least}\nyield_most = ${f.most}\ndepth_low = ${f.low}\ndepth_high = ${f.low + f.span}\nweight = ${f.weight}\nby = ${f.slot}\n`,
      )
      .join('\n'),
}

/** Edits of one number each; those of the two sides are of different entries, or of keys that have nothing to do with each other. */
interface Edit {
  at: number
  key: 'worth' | 'weight' | 'least' | 'low'
  by: number
}

const edits = fc.array(
  fc.record({
    at: fc.nat(29),
    key: fc.constantFrom<Edit['key']>('worth', 'weight', 'least', 'low'),
    by: fc.integer({ min: -15, max: 15 }),
  }),
  { maxLength: 12 },
)

/** Keeps each entry in order by itself. */
function edited(all: readonly Find[], told: readonly Edit[]): Find[] {
  const made = all.map((each) => ({ ...each }))
  for (const { at, key, by } of told) {
    const one = made[at]
    if (one === undefined) continue
    if (key === 'least') one.least = Math.max(0, Math.min(one.most, one.least + by))
    else one[key] = Math.max(0, one[key] + by)
  }
  return made
}

describe.each(Object.keys(RENDER))('what both sides broke together in %s', (path) => {
  const render = RENDER[path] ?? String

  test('edits that have nothing to do with each other give no finding', () => {
    fc.assert(
      fc.property(finds, edits, edits, (old, fresh, own) => {
        // mine leaves alone what vanilla edits, but for worth and weight
        const busy = new Set(
          fresh.filter(({ key }) => key === 'low' || key === 'least').map(({ at }) => at),
        )
        const mine = own.filter(
          ({ at, key }) => key === 'worth' || key === 'weight' || !busy.has(at),
        )
        expect(
          broken({ [path]: [render(old), render(edited(old, fresh)), render(edited(old, mine))] }),
        ).toEqual([])
      }),
      RUNS,
    )
  })

  test('every crossing that is planted is found', () => {
    fc.assert(
      fc.property(finds, edits, fc.nat(), fc.integer({ min: 1, max: 9 }), (all, own, where, by) => {
        const at = where % all.length
        const old = all.map((each, i) => (i === at ? { ...each, least: 2, most: 20 } : each))
        // vanilla raises the least to where mine has lowered the most below
        const fresh = old.map((each, i) => (i === at ? { ...each, least: 10 + by } : each))
        const others = own.filter((edit) => edit.at !== at)
        const mine = edited(old, others).map((each, i) => (i === at ? { ...each, most: 10 } : each))
        const found = broken({ [path]: [render(old), render(fresh), render(mine)] })
        expect(found).toHaveLength(1)
        expect(found[0]).toContain(`find-${at}`)
        expect(found[0]).toContain('least')
        expect(found[0]).not.toContain(':0 ')
      }),
      RUNS,
    )
  })

  test('a reference to an entry that vanilla removed is found', () => {
    fc.assert(
      fc.property(finds, fc.nat(), (all, where) => {
        const gone = where % all.length
        const at = (gone + 1) % all.length
        const name = `find-${gone}`
        const rest = all.map((each) => ({
          ...each,
          slot: each.slot === name ? each.id : each.slot,
        }))
        const mine = rest.map((each, i) => (i === at ? { ...each, slot: name } : each))
        const fresh = rest.filter((_, i) => i !== gone)
        const found = broken({ [path]: [render(rest), render(fresh), render(mine)] })
        expect(found).toEqual([expect.stringMatching(`find-${at}\\b.*by`)])
      }),
      RUNS,
    )
  })
})

describe('what both sides broke together', () => {
  const xml = (text: string): string => `<a>${text}</a>\n`

  test('an order that holds in all entries is one, whatever the names are', () => {
    const entries = (change: (i: number, a: number, b: number) => [number, number]): string =>
      xml(
        Array.from({ length: 24 }, (_, i) => {
          const [a, b] = change(i, (i * 37) % 50, ((i * 37) % 50) + 1 + (i % 3))
          return `<e id="e${i}" calm="${a}" wild="${b}"/>`
        }).join('\n'),
      )
    const old = entries((_, a, b) => [a, b])
    const fresh = entries((i, a, b) => [i === 5 ? a + 4 : a, i === 5 ? b + 9 : b])
    const mine = entries((i, a, b) => [i === 5 ? a - 1 : a, i === 5 ? b - 1 : b])
    const crossed = entries((i, a, b) => [i === 5 ? a - 9 : a, i === 5 ? b - 2 : b])
    expect(broken({ 'a.xml': [old, fresh, mine] })).toEqual([])
    expect(
      broken({ 'a.xml': [old, entries((i, a, b) => [i === 5 ? a + 1 : a, b]), crossed] }),
    ).toEqual([])
    const raised = entries((i, a, b) => [i === 5 ? b : a, b])
    const lowered = entries((i, a, b) => [a, i === 5 ? a : b])
    expect(broken({ 'a.xml': [old, raised, lowered] })).toEqual(['a.xml:6 e[e5]/@calm'])
    // of few entries the order may be chance
    const few = (text: string): string => xml(text.split('\n').slice(3, 8).join('\n'))
    expect(broken({ 'a.xml': [few(old), few(raised), few(lowered)] })).toEqual([])
  })

  test('the ends of a range are found among any number of numbers, by all the words of their names', () => {
    const section = (
      change: (i: number, least: number, most: number) => [number, number],
    ): string =>
      `[Tides]\n${Array.from({ length: 400 }, (_, i) => {
        const [least, most] = change(i, i, i + 10)
        return `tide${i}_least=${least}\nmostTide${i}=${most}\nleast-Tide${i}=${least}\n`
      }).join('')}`
    const old = section((_, least, most) => [least, most])
    const raised = section((i, least, most) => [i === 300 ? least + 8 : least + 1, most])
    const lowered = section((i, least, most) => [least, i === 300 ? most - 8 : most - 1])
    // the words of the first name stand in another order, and the numbers of all others are others
    expect(broken({ 'a.ini': [old, raised, lowered] })).toEqual(['a.ini:904 Tides/least-Tide300'])
  })

  test('a name that both gave, each to another entry, stands twice', () => {
    const old = xml('<g n="1"><slot id="x"/></g><g n="2"><slot id="y"/></g>')
    const fresh = old.replace('<slot id="x"/>', '<slot id="x"/><slot id="z"/>')
    const mine = old.replace('<slot id="y"/>', '<slot id="y"/><slot id="z"/>')
    expect(broken({ 'a.xml': [old, fresh, mine] })).toHaveLength(1)
    const coded = xml('<slot id="x" code="1"/><slot id="y" code="2"/>')
    const retuned = coded.replace('code="2"', 'code="3, long"')
    const grown = coded.replace('<slot id="x"', '<slot id="w" code="3, long"/><slot id="x"')
    expect(broken({ 'a.xml': [coded, grown, retuned] })).toHaveLength(1)
    // a few names that are all different are that by chance
    const named = (text: string): string => text.replaceAll(' id=', ' name=')
    expect(broken({ 'a.xml': [named(old), named(fresh), named(mine)] })).toEqual([])
    // names that stand in several containers anyway are none
    const twice = (text: string): string => text.replace('</a>', '<g n="3"><slot id="x"/></g></a>')
    expect(broken({ 'a.xml': [twice(old), twice(fresh), twice(mine)] })).toEqual([])
    // who gives an entry another name brings nothing else that is in it
    const tiers = (...needs: string[]): string =>
      `[${needs.map((each, i) => `\n  { "id": ${i + 1}, "needs": "${each}", "open": true }`).join(',')}\n]\n`
    const numbered = tiers('crabs 4', 'crabs 7', 'eels 3', 'eels 9', 'rays 2')
    const anew = tiers('crabs 4', 'crabs 7', 'wrecks 1', 'eels 3', 'eels 9', 'rays 2')
    const renamed = numbered.replace('eels 9', 'eels 20')
    expect(broken({ 'a.json': [numbered, anew, renamed] })).toEqual([])
  })

  test('a file of its own may refer to what vanilla removed; a value that is no reference may be the same', () => {
    const old = '[{ "id": "lamp", "n": 1 }, { "id": "rope", "n": 2 }, { "id": "bell", "n": 3 }]\n'
    const fresh = '[{ "id": "lamp", "n": 1 }, { "id": "bell", "n": 3 }]\n'
    const wrecks = (first: string): string =>
      `{ "holds": ["${first}", "bell"], "word": "${first}s" }\n`
    const files = (last: string): Files => ({
      'finds.json': [old, fresh, old],
      'wrecks.json': [wrecks('lamp'), wrecks('lamp'), wrecks(last)],
    })
    expect(broken(files('rope'))).toEqual(['wrecks.json:1 holds[0]'])
    expect(broken(files('bell'))).toEqual([])
    // a number is equal to a name by chance
    const marks = (...names: string[]): string =>
      JSON.stringify(Object.fromEntries(names.map((name) => [name, 'rock'])))
    const depths = (last: number): string => `{ "depths": [4, 6, ${last}] }\n`
    expect(
      broken({
        'marks.json': [marks('4', '6', '7'), marks('4', '6'), marks('4', '6', '7')],
        'dive.json': [depths(4), depths(4), depths(7)],
      }),
    ).toEqual([])
    const word = (text: string): string => `{ "said": ["good", "${text}"] }\n`
    expect(
      broken({
        'finds.json': [old, fresh, old],
        'a.json': triple((side) => word(side === 2 ? 'rope' : 'x')),
      }),
    ).toEqual([])
  })
})
