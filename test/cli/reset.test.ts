import { readdirSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryVariantsDocument } from '../../src/show/carry-document.ts'
import { backupDocument, overviewDocument } from '../../src/show/workspace-document.ts'
import { Workplace } from './program.ts'

type Values = Record<string, number>

const KEYS = Array.from({ length: 10 }, (_, i) => `k${i}`)

/** One file of the game in three formats. */
const FORMS: Record<string, (values: Values) => string> = {
  ini: (values) =>
    `[sea]\n${Object.entries(values)
      .map(([key, value]) => `${key} = ${value}\n`)
      .join('')}`,
  json: (values) => `${JSON.stringify(values, null, 2)}\n`,
  xml: (values) =>
    `<finds>\n${Object.entries(values)
      .map(([key, value]) => `  <find id="${key}"><worth>${value}</worth></find>\n`)
      .join('')}</finds>\n`,
}

/** What an updater does to a live file; a hotfix is a release that the store has not. */
const RESETS = ['none', 'old', 'new', 'gone', 'hotfix'] as const

interface LiveFile {
  form: string
  edits: number[]
  retuned: number[]
  reset: (typeof RESETS)[number]
}

const liveFile: fc.Arbitrary<LiveFile> = fc.record({
  form: fc.constantFrom('ini', 'json', 'xml'),
  // what a hotfix resets has three edits at least, or it is no reset
  edits: fc.uniqueArray(fc.nat(9), { minLength: 3, maxLength: 6 }),
  retuned: fc.uniqueArray(fc.nat(9), { maxLength: 3 }),
  reset: fc.constantFrom(...RESETS),
})

const valuesOf = (changed: readonly number[], by: number): Values =>
  Object.fromEntries(KEYS.map((key, i) => [key, changed.includes(i) ? by + i : i]))

function contents({ edits, retuned }: LiveFile): Record<string, Values> {
  return {
    old: valuesOf([], 0),
    new: { ...valuesOf(retuned, 100), brought: 1 },
    mine: valuesOf(edits, 900),
    // of edits that it retunes it cannot be told that they are gone
    hotfix: valuesOf([KEYS.findIndex((_, i) => !edits.includes(i))], 50),
  }
}

function carried(place: Workplace, ...args: string[]): { code: number | null; draft: unknown } {
  const { code, out } = place.run(['carry', 'harbour', '--to', '2', '--json', ...args])
  if (code === 4) return { code, draft: undefined }
  const [done] = carryVariantsDocument.parse(JSON.parse(out)).variants
  return { code, draft: place.tree(join('.anagnosis/drafts', done?.draft ?? '')) }
}

function setUp(files: readonly LiveFile[]): Workplace {
  const place = new Workplace()
  for (const [i, file] of files.entries()) {
    const all = contents(file)
    const write = FORMS[file.form] ?? FORMS.ini
    for (const [side, folder] of [
      ['old', 'v1'],
      ['new', 'v2'],
      ['mine', 'live'],
    ] as const)
      place.write({ [`${folder}/f${i}.${file.form}`]: write?.(all[side] ?? {}) ?? '' })
  }
  place.run([
    'setup',
    '--variant',
    'harbour',
    '--folder',
    'live',
    '--vanilla',
    '1',
    '--source',
    'v1',
  ])
  place.run(['vanilla', 'add', '2', 'v2'])
  return place
}

function reset(place: Workplace, files: readonly LiveFile[]): void {
  for (const [i, file] of files.entries()) {
    const path = `live/f${i}.${file.form}`
    if (file.reset === 'none') continue
    if (file.reset === 'gone') rmSync(place.path(path))
    else place.write({ [path]: FORMS[file.form]?.(contents(file)[file.reset] ?? {}) ?? '' })
  }
}

const ROUNDS = { numRuns: Number(process.env.RESET_RUNS ?? 5), seed: 4102 }

describe('a live folder that something reset', () => {
  test('gives the draft that it would have given before, whatever was reset, backed up and thinned', () => {
    fc.assert(
      fc.property(
        fc.array(liveFile, { minLength: 5, maxLength: 5 }),
        fc.boolean(),
        (files, saves) => {
          const place = setUp(files)
          const before = carried(place).draft
          reset(place, files)
          if (saves) place.run(['backup', 'harbour', '--keep', '1'])
          const hasOwn = files.some((each) => each.reset === 'hotfix')
          const plain = carried(place)
          // the values of a hotfix look like the operator's own
          expect(plain.code === 4).toBe(hasOwn)
          expect(carried(place, '--mine', 'kept').draft).toEqual(before)
          if (!hasOwn) expect(plain.draft).toEqual(before)
        },
      ),
      ROUNDS,
    )
  })

  test('is told by backup and overview, and what was dropped on purpose is no loss', () => {
    const file: LiveFile = { form: 'ini', edits: [1, 2, 3, 4], retuned: [], reset: 'old' }
    const place = setUp([file, { ...file, form: 'json', reset: 'none' }])
    reset(place, [file])
    const wiped = backupDocument.parse(JSON.parse(place.run(['backup', 'harbour', '--json']).out))
    expect(wiped.problems).toMatchObject([{ code: 'backup/wiped' }])
    expect(place.run(['backup', 'harbour', '--keep', '1'])).toMatchObject({
      code: 1,
      out: expect.stringMatching(
        /4 edits are gone from what you just[^]*Kept 1 older backup/,
      ) as string,
    })
    const overview = (): { wiped: unknown[]; next: string[] } => {
      const { variants, next } = overviewDocument.parse(
        JSON.parse(place.run(['overview', '--json']).out),
      )
      return { wiped: variants[0]?.wiped ?? [], next }
    }
    expect(overview().wiped).toHaveLength(4)
    expect(overview().next[0]).toBe('anagnosis carry harbour --to 2')
    expect(place.run(['backup', 'harbour', '--as-it-is']).code).toBe(0)
    expect(overview().wiped).toEqual([])
    place.run(['backup', 'harbour', '--keep', '1'])
    expect(
      readdirSync(place.path('.anagnosis/backups')).filter((n) => n.endsWith('.json')),
    ).toHaveLength(2)
  })

  test('that lost single edits is carried as it is, each of them is told, and the run ends with 1', () => {
    const file: LiveFile = { form: 'ini', edits: [1, 2, 3, 4, 5, 6], retuned: [], reset: 'none' }
    const place = setUp([file])
    const one = { ...contents(file).mine, k1: 1 }
    place.write({ 'live/f0.ini': FORMS.ini?.(one) ?? '' })
    const { code, out } = place.run(['carry', 'harbour', '--to', '2', '--json'])
    const { variants } = carryVariantsDocument.parse(JSON.parse(out))
    expect([code, variants[0]?.problems]).toMatchObject([1, [{ code: 'carry/wiped' }]])
    expect(variants[0]?.problems[0]?.message).toContain('sea/k1: your 901 is gone')
  })
})
