import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import addFormats from 'ajv-formats'
import { Ajv } from 'ajv'
import { describe, expect, test } from 'vitest'
import type { z } from 'zod'
import { carryVariantsDocument } from '../../src/show/carry-document.ts'
import { checkDocument } from '../../src/show/check-document.ts'
import { deliverDocument } from '../../src/show/deliver-document.ts'
import { ROOT, Workplace } from './program.ts'

const FINDS = `<?xml version="1.0"?>
<finds>
  <find id="brass-lamp" worth="110"><yield least="2" most="3"/><bed bottom="sand"/></find>
  <find id="diving-bell" worth="260"><yield least="1" most="1"/><bed bottom="rock"/></find>
</finds>
`

/** A folder in which every check below holds. */
const RIGHT = {
  'salvage/finds.xml': FINDS,
  'salvage/wrecks.xml':
    '<wrecks><wreck id="w1"><hold find="brass-lamp"/><hold find="diving-bell"/></wreck></wrecks>\n',
  'rules/dive.json': '{\n  "limits": { "oxygen": 90, "charts": 2 }\n}\n',
  'charts/order.xml': '<order><add-on id="reef"/><add-on id="trench"/></order>\n',
  'add-ons/reef/about.json': '{ "id": "reef", "newest": "4.10" }\n',
  'add-ons/trench/about.json': '{ "id": "trench", "newest": "4.2" }\n',
}

const CHECKS = {
  unique: '{ unique: "salvage/finds.xml: find[*]/@id" }',
  'less-or-equal':
    '{ at: "salvage/finds.xml: find[*]", less-or-equal: ["yield/@least", "yield/@most"] }',
  'in-range': '{ every: "rules/dive.json: limits/oxygen", in-range: [10, 240] }',
  'one-of': '{ every: "salvage/finds.xml: find[*]/bed/@bottom", one-of: [sand, rock, silt] }',
  matches: '{ every: "salvage/finds.xml: find[*]/@id", matches: "^[a-z-]+$" }',
  'is-in':
    '{ every: "salvage/wrecks.xml: wreck[*]/hold[*]/@find", is-in: "salvage/finds.xml: find[*]/@id" }',
  agree: '{ agree: ["add-ons/*/", "add-ons/*/about.json: id"] }',
  listed: '{ listed: "add-ons/*/", in: "charts/order.xml: add-on[*]/@id" }',
  landmark: '{ landmark: "salvage/finds.xml: find[diving-bell]", since: "4.2" }',
  reaches: '{ every: "add-ons/*/about.json: newest", reaches: game-version }',
  count: '{ count: "charts/order.xml: add-on[*]", at-most: "rules/dive.json: limits/charts" }',
  names: '{ names: "add-ons/**", letters: "a-z0-9-", extensions: [json, xml] }',
}

type Kind = keyof typeof CHECKS

function config(kinds: readonly Kind[]): string {
  const checks = kinds.map((kind) => `  - ${CHECKS[kind]}\n`).join('')
  return `variants:\n  harbour: { folder: live, vanilla: "4.2" }\nchecks:\n${checks}`
}

function workspace(kinds: readonly Kind[] = Object.keys(CHECKS) as Kind[]): Workplace {
  const live = Object.entries(RIGHT).map(([path, text]) => [`live/${path}`, text])
  const place = new Workplace({
    ...Object.fromEntries(live),
    'v1/a.ini': 'a = 1\n',
    'v2/a.ini': 'a = 2\n',
    'anagnosis.yaml': config(kinds),
  })
  // what says nothing of a version needs no release
  if (kinds.some((kind) => kind === 'landmark' || kind === 'reaches')) {
    place.run(['vanilla', 'add', '4.1', 'v1'])
    place.run(['vanilla', 'add', '4.2', 'v2'])
  }
  return place
}

interface Checked {
  code: number | null
  document: z.infer<typeof checkDocument>
}

function check(place: Workplace, ...args: string[]): Checked {
  const { code, out } = place.run(['check', ...args, '--json'])
  return { code, document: checkDocument.parse(JSON.parse(out)) }
}

type Finding = z.infer<typeof checkDocument>['findings'][number]

/** What each kind of check finds in files in which one thing is wrong. */
const WRONG: Record<Kind, { files: Record<string, string>; found: Partial<Finding>[] }> = {
  unique: {
    files: {
      'salvage/finds.xml': FINDS.replace('</finds>', '  <find id="brass-lamp"/>\n</finds>'),
    },
    found: [{ path: 'salvage/finds.xml', key: 'find[brass-lamp]~2/@id', line: 5, column: 9 }],
  },
  'less-or-equal': {
    files: { 'salvage/finds.xml': FINDS.replace('least="2"', 'least="6"') },
    found: [
      {
        key: 'find[brass-lamp]/yield/@least',
        line: 3,
        column: 44,
        expected: 'at most 3',
        nearest: '3',
      },
    ],
  },
  'in-range': {
    files: { 'rules/dive.json': RIGHT['rules/dive.json'].replace('90', '900') },
    found: [{ key: 'limits/oxygen', line: 2, column: 15, nearest: '240' }],
  },
  'one-of': {
    files: { 'salvage/finds.xml': FINDS.replace('"rock"', '"rocks"') },
    found: [{ key: 'find[diving-bell]/bed/@bottom', line: 4, nearest: 'rock' }],
  },
  matches: {
    files: { 'salvage/finds.xml': FINDS.replace('"diving-bell"', '"Diving-bell"') },
    found: [{ key: 'find[Diving-bell]/@id', nearest: 'diving-bell' }],
  },
  'is-in': {
    files: {
      'salvage/wrecks.xml': RIGHT['salvage/wrecks.xml'].replace('"diving-bell"', '"diving-bel"'),
    },
    found: [{ path: 'salvage/wrecks.xml', line: 1, nearest: 'diving-bell' }],
  },
  agree: {
    files: { 'add-ons/reef/about.json': '{ "id": "Reef", "newest": "4.2" }\n' },
    found: [
      {
        path: 'add-ons/reef/about.json',
        key: 'id',
        message: 'Reef is to be the same as reef, of add-ons/reef/; they differ in a capital',
        nearest: 'reef',
      },
    ],
  },
  listed: {
    files: {
      'charts/order.xml': '<order><add-on id="reef"/><add-on id="tr\u0435nch"/></order>\n',
    },
    found: [
      { path: 'add-ons/trench/', key: '', line: null },
      {
        path: 'charts/order.xml',
        line: 1,
        nearest: 'trench',
        message: expect.stringContaining('differs in a letter that looks alike') as string,
      },
    ],
  },
  landmark: {
    files: { 'salvage/finds.xml': FINDS.replace('diving-bell', 'diving-bel') },
    found: [{ key: 'find[diving-bell]', line: null, nearest: 'find[diving-bel]' }],
  },
  reaches: {
    files: { 'add-ons/reef/about.json': '{ "id": "reef", "newest": "4.1.9" }\n' },
    found: [{ path: 'add-ons/reef/about.json', key: 'newest', expected: '4.2 or later' }],
  },
  count: {
    files: { 'rules/dive.json': RIGHT['rules/dive.json'].replace('"charts": 2', '"charts": 1') },
    found: [{ path: 'charts/order.xml', nearest: '1' }],
  },
  names: {
    files: { 'add-ons/reef/more.json.txt': 'x', 'add-ons/trench/Deep_one.xml': '<a/>\n' },
    found: [
      { path: 'add-ons/reef/more.json.txt', nearest: 'more.json' },
      { path: 'add-ons/trench/Deep_one.xml', nearest: 'deep-one' },
    ],
  },
}

describe('check', () => {
  test('finds nothing where every check holds', () => {
    const place = workspace()
    const { code, document } = check(place, 'harbour')
    expect([code, document.findings, document.problems]).toEqual([0, [], []])
    expect(document.counts).toEqual({ files: 6, checks: 12, findings: 0 })
    expect(place.run(['check']).out).toContain('Every file is well formed')
  })

  test.each(Object.keys(WRONG) as Kind[])('%s: is found where it does not hold', (kind) => {
    const { files, found } = WRONG[kind]
    const place = workspace([kind])
    for (const [path, text] of Object.entries(files)) place.write({ [`live/${path}`]: text })
    const { code, document } = check(place, 'harbour')
    expect(document.findings).toEqual(
      found.map((each) => expect.objectContaining({ check: kind, severity: 'error', ...each })),
    )
    expect(code).toBe(1)
  })

  test('names every malformed file with its line, also in a folder without a workspace', () => {
    const place = workspace(['in-range'])
    place.write({
      'live/rules/dive.json': '{\n  "limits": { "oxygen": 90\n}\n',
      'live/salvage/wrecks.xml': '<wrecks>\n  <wreck>\n</wrecks>\n',
    })
    const before = place.tree('live')
    const { code, document } = check(place, 'harbour')
    expect(code).toBe(3)
    expect(document.findings).toEqual([
      expect.objectContaining({ path: 'rules/dive.json', check: 'well-formed', line: 1 }),
      expect.objectContaining({ path: 'salvage/wrecks.xml', check: 'well-formed', line: 2 }),
    ])
    expect(document.problems.map(({ code: what }) => what)).toEqual(['check/fits-nothing'])
    expect(place.tree('live')).toEqual(before)
    const shown = place.run(['check', './live']).out
    expect(shown).toContain('</wrecks>')
    const alone = new Workplace({ 'files/a.json': '{"a":1,,}\n', 'files/b.ini': 'a = 1\n' })
    expect(alone.run(['check', 'files']).code).toBe(3)
    expect(alone.run(['check', 'nowhere']).code).toBe(2)
  })

  test('a check that fits nothing is a warning with the nearest; one that is written wrongly is refused with its line', () => {
    const place = workspace(['in-range'])
    const text = place.read('anagnosis.yaml')
    place.write({ 'anagnosis.yaml': text.replace('limits/oxygen', 'limits/oxigen') })
    const { code, document } = check(place, 'harbour')
    expect([code, document.problems]).toEqual([
      0,
      [
        expect.objectContaining({
          code: 'check/fits-nothing',
          hint: 'did you mean rules/dive.json: limits/oxygen?',
        }),
      ],
    ])
    place.write({ 'anagnosis.yaml': text.replace('in-range', 'in-ragne') })
    const wrong = place.run(['check', 'harbour'])
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('did you mean in-range?')])
    expect(wrong.err).toContain('anagnosis.yaml:4:')
    place.write({ 'anagnosis.yaml': text.replace('[10, 240]', '10') })
    expect(place.run(['check', 'harbour']).code).toBe(2)
  })

  test('a check since a later release is not made of an earlier one', () => {
    const place = workspace(['landmark'])
    place.write({ 'live/salvage/finds.xml': '<finds/>\n' })
    expect(check(place, 'harbour').code).toBe(1)
    place.write({ 'anagnosis.yaml': place.read('anagnosis.yaml').replace('"4.2" }', '"4.1" }') })
    expect(check(place, 'harbour').code).toBe(0)
    // nobody knows of which release a folder is
    const { code, document } = check(place, './live')
    expect([code, document.problems.map(({ code: what }) => what)]).toEqual([
      0,
      ['check/no-release'],
    ])
  })

  test('writes a SARIF log that the standard accepts', () => {
    const place = workspace(['agree', 'in-range', 'listed'])
    place.write({
      'live/rules/dive.json': '{ "limits": { "oxygen": 9 } }\n',
      'live/add-ons/a b/about.json': '{ "id": "A b" }\n',
    })
    const { document } = check(place, 'harbour', '--sarif', 'out.sarif')
    const log = JSON.parse(place.read('out.sarif')) as { runs: { results: unknown[] }[] }
    const ajv = new Ajv({ strict: false, unicodeRegExp: false })
    addFormats.default(ajv)
    const schema = join(ROOT, 'test', 'schemas', 'sarif-2.1.0.json')
    const isSarif = ajv.compile(JSON.parse(readFileSync(schema, 'utf8')) as object)
    expect([isSarif(log), isSarif.errors]).toEqual([true, null])
    expect(log.runs[0]?.results).toHaveLength(document.findings.length)
    expect(place.read('out.sarif')).toContain('add-ons/a%20b/')
    // the schema is one that refuses something
    expect(isSarif({ ...log, version: '1' })).toBe(false)
  })

  test('what both sides broke together is told after the carry and by check, and does not stop a delivery', () => {
    const place = new Workplace({
      'v1/dive.json': '{ "least": 2, "most": 20, "charts": 4 }\n',
      'v2/dive.json': '{ "least": 12, "most": 20, "charts": 4 }\n',
      'live/dive.json': '{ "least": 2, "most": 10, "charts": 4 }\n',
      'anagnosis.yaml': 'variants:\n  harbour: { folder: live, vanilla: "4.1" }\n',
    })
    place.run(['vanilla', 'add', '4.1', 'v1'])
    place.run(['vanilla', 'add', '4.2', 'v2'])
    const found = { path: 'dive.json', key: 'least', line: 1, column: 3, check: 'together-broken' }
    const carried = place.run(['carry', 'harbour', '--to', '4.2', '--json'])
    const { variants } = carryVariantsDocument.parse(JSON.parse(carried.out))
    expect([carried.code, variants[0]?.counts.conflicts]).toEqual([1, 0])
    expect(variants[0]?.findings).toEqual([expect.objectContaining(found)])
    const draft = check(place, 'harbour', '--draft')
    expect([draft.code, draft.document.findings]).toEqual([1, [expect.objectContaining(found)]])
    const paths = ['--old', 'v1', '--new', 'v2', '--mine', 'live']
    expect(place.run(['carry', ...paths, '--dry-run']).code).toBe(1)
    // an answer mends that
    place.run(['settle', 'harbour', '--file', 'dive.json', '--key', 'most', '--take', 'value:15'])
    expect(check(place, 'harbour', '--draft').code).toBe(0)
    place.run(['settle', 'harbour', '--file', 'dive.json', '--key', 'most', '--take', 'value:9'])
    expect(check(place, 'harbour', '--draft').code).toBe(1)
    expect(place.run(['deliver', 'harbour', '--yes']).code).toBe(0)
  })

  test('a delivery is refused while a check of its draft fails, and told what it passes over', () => {
    const place = new Workplace({
      'v1/dive.json': '{ "oxygen": 90 }\n',
      'v2/dive.json': '{ "oxygen": 90, "charts": 4 }\n',
      'live/dive.json': '{ "oxygen": 900 }\n',
      'anagnosis.yaml':
        'variants:\n  harbour: { folder: live, vanilla: "4.1" }\nchecks:\n  - { every: "dive.json: oxygen", in-range: [10, 240] }\n',
    })
    place.run(['vanilla', 'add', '4.1', 'v1'])
    place.run(['vanilla', 'add', '4.2', 'v2'])
    place.run(['carry', 'harbour', '--to', '4.2'])
    const before = place.tree('live')
    const draft = check(place, 'harbour', '--draft')
    expect([draft.code, draft.document.findings.map(({ path }) => path)]).toEqual([
      1,
      ['dive.json'],
    ])
    const deliver = (...args: string[]): [number | null, z.infer<typeof deliverDocument>] => {
      const { code, out } = place.run(['deliver', 'harbour', '--yes', '--json', ...args])
      return [code, deliverDocument.parse(JSON.parse(out))]
    }
    for (const args of [[], ['--dry-run'], ['--despite', 'unique']]) {
      const [code, { refusals, next }] = deliver(...args)
      expect([code, refusals.map((each) => each.code), next]).toEqual([
        4,
        ['deliver/check-fails'],
        ['anagnosis check harbour --draft'],
      ])
    }
    expect(place.tree('live')).toEqual(before)
    const unknown = place.run(['deliver', 'harbour', '--yes', '--despite', 'in-rnage'])
    expect([unknown.code, unknown.err]).toEqual([2, expect.stringContaining('in-range')])
    const [code, done] = deliver('--despite', 'in-range')
    expect([code, done.despite, place.read('live/dive.json')]).toEqual([
      0,
      ['in-range'],
      '{ "oxygen": 900, "charts": 4 }\n',
    ])
    const record = place.read(`.anagnosis/drafts/${done.draft ?? ''}.json`)
    expect(record).toContain('"in-range"')
  })
})
