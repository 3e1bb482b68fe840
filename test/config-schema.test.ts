import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Ajv2020 } from 'ajv/dist/2020.js'
import { expect, test } from 'vitest'
import { parse } from 'yaml'
import { parseConfig } from '../src/workspace/config/config.ts'
import { ROOT } from './cli/program.ts'

/** Configs, and whether they are right: the schema that editors read says of each what the program says. */
const CONFIGS: readonly (readonly [isRight: boolean, config: string])[] = [
  [true, readFileSync(join(ROOT, 'test/cli/golden/config.txt'), 'utf8')],
  [true, readFileSync(join(ROOT, 'demo/data/checks.yaml'), 'utf8')],
  [true, 'variants:\n  h: { folder: live, vanilla: "4.1", sparse: true, upload: true }\n'],
  [
    true,
    'files:\n  - { match: "bin/**", take: vanilla }\n  - match: "a/*.xml"\n    identity: { find: "@id" }\n    order: { chart: matters }\n    list: { "find/@class": " " }\n    together: [["find/@a", "find/@b"]]\n',
  ],
  [true, 'files:\n  - { match: "*.cfg", format: { name: ini, separator: blank } }\n'],
  [true, 'checks:\n  - { count: "a.xml: b[*]", at-most: 4, since: "4.2" }\n'],
  [false, 'variants:\n  h: { folder: live, vanilla: 4.1 }\n'],
  [false, 'variants:\n  h: { folder: live, vanila: "4.1" }\n'],
  [false, 'variants:\n  "a/b": { folder: live, vanilla: "4.1" }\n'],
  [false, 'files:\n  - { match: a, take: theirs }\n'],
  [false, 'files:\n  - { take: mine }\n'],
  [false, 'checks:\n  - { every: "a.json: b", in-range: [1] }\n'],
  [false, 'checks:\n  - { every: "a.json: b" }\n'],
  [false, 'checks:\n  - { unique: "a.json" }\n'],
  [false, 'somethings: []\n'],
]

test('the schema for editors accepts and refuses what the program does', () => {
  const schema = readFileSync(join(ROOT, 'schema/anagnosis.schema.json'), 'utf8')
  const isRight = new Ajv2020({ strict: false }).compile(JSON.parse(schema) as object)
  expect(schema).toContain('json-schema.org/draft/2020-12/schema')
  const program = (config: string): boolean => {
    try {
      parseConfig(config, 'anagnosis.yaml')
      return true
    } catch {
      return false
    }
  }
  for (const [wanted, config] of CONFIGS)
    expect([config, isRight(parse(config)), program(config)]).toEqual([config, wanted, wanted])
})
