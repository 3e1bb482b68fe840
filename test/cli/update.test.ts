import { readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import type { z } from 'zod'
import { carryVariantsDocument, failureDocument } from '../../src/show/carry-document.ts'
import { settleDocument } from '../../src/show/settle-document.ts'
import { overviewDocument } from '../../src/show/workspace-document.ts'
import { copiesOf, Workplace } from './program.ts'

type Carried = z.infer<typeof carryVariantsDocument>
type Settled = z.infer<typeof settleDocument>

const dive = (oxygen: number, divers: number, charts = 14): string =>
  `{\n  "limits": {\n    "oxygen": ${oxygen},\n    "divers": ${divers},\n    "charts": ${charts}\n  }\n}\n`
const finds = (...worths: number[]): string =>
  `<finds>\n${worths.map((worth, i) => `  <find id="f${i}">\n    <worth>${worth}</worth>\n  </find>\n`).join('')}</finds>\n`

/** Two servers on 4.1, and 4.2 in the store: both ask the same of oxygen, and old-harbour of a worth, too. */
const workspace = copiesOf(() => {
  const place = new Workplace({
    'v1/rules/dive.json': dive(90, 4),
    'v2/rules/dive.json': dive(75, 4),
    'v1/salvage/finds.xml': finds(1, 2, 3, 4, 5, 6),
    'v2/salvage/finds.xml': finds(10, 2, 3, 4, 5, 6, 7),
    'v1/notes.txt': 'tides\nfog\n',
    'v2/notes.txt': 'tides\nfog at dawn\n',
    'harbour/rules/dive.json': dive(120, 4),
    'harbour/salvage/finds.xml': finds(4, 8, 12, 16, 20, 24),
    'harbour/notes.txt': 'tides\nno fog\n',
    'harbour/own.ini': 'pier = 6\n',
    'trench/rules/dive.json': dive(120, 8),
    'trench/salvage/finds.xml': finds(1, 2, 3, 4, 5, 6),
    'trench/notes.txt': 'tides\nfog\n',
    'anagnosis.yaml':
      'variants:\n  harbour: { folder: harbour, vanilla: "4.1" }\n  trench: { folder: trench, vanilla: "4.1" }\n',
  })
  place.run(['vanilla', 'add', '4.1', 'v1'])
  place.run(['vanilla', 'add', '4.2', 'v2'])
  return place
})

function carry(place: Workplace, ...args: string[]): { code: number | null; document: Carried } {
  const { code, out, err } = place.run(['carry', ...args, '--json'])
  if (out === '') throw new Error(err)
  return { code, document: carryVariantsDocument.parse(JSON.parse(out)) }
}

function settle(place: Workplace, ...args: string[]): { code: number | null; document: Settled } {
  const { code, out, err } = place.run(['settle', ...args, '--json'])
  if (out === '') throw new Error(err)
  return { code, document: settleDocument.parse(JSON.parse(out)) }
}

function refused(place: Workplace, ...args: string[]): { code: number | null; says: string } {
  const { code, out } = place.run([...args, '--json'])
  const { problems, next } = failureDocument.parse(JSON.parse(out))
  return {
    code,
    says: [...problems.map((each) => `${each.code} ${each.hint ?? ''}`), ...next].join(' | '),
  }
}

/** The files of the open draft of a variant. */
function draft(place: Workplace, variant: string): Record<string, string> {
  return place.tree(folderOf(place, variant)) ?? {}
}

function folderOf(place: Workplace, variant: string): string {
  const names = readdirSync(place.path('.anagnosis/drafts'))
  const name = names.find((each) => each.startsWith(`${variant}-`) && !each.endsWith('.json'))
  return join('.anagnosis/drafts', name ?? '')
}

describe('carry of variants', () => {
  test('writes a draft of each, touches nothing live, and what both ask is one question', () => {
    const place = workspace()
    const live = [place.tree('harbour'), place.tree('trench')]
    const { code, document } = carry(place, '--to', '4.2')
    expect(code).toBe(1)
    expect([place.tree('harbour'), place.tree('trench')]).toEqual(live)
    expect(document.releases['4.2']).toMatchObject({ label: '4.2', trial: false, order: 1 })
    expect(document.variants.map((each) => [each.variant, each.counts.conflicts])).toEqual([
      ['harbour', 3],
      ['trench', 1],
    ])
    expect(document.counts.conflicts).toBe(4)
    expect(
      document.questions.map(({ pattern, variants, count }) => [pattern, variants, count]),
    ).toEqual([
      ['limits/oxygen', ['harbour', 'trench'], 2],
      ['lines[*]', ['harbour'], 1],
      ['find[*]/worth', ['harbour'], 1],
    ])
    expect(draft(place, 'harbour')).toMatchObject({
      'own.ini': 'pier = 6\n',
      'rules/dive.json': dive(120, 4),
      'salvage/finds.xml': finds(4, 8, 12, 16, 20, 24, 7),
    })
    const record = JSON.parse(place.read(`${folderOf(place, 'harbour')}.json`))
    expect(record).toMatchObject({ schema: 1, variant: 'harbour', from: '4.1', to: '4.2' })
    expect(record.files[0]).toMatchObject({ path: 'notes.txt', mine: 'live' })
    const text = place.run(['carry', '--to', '4.2']).out
    expect(text).toContain('harbour line 3')
    for (const line of text.split('\n')) expect(line.length).toBeLessThanOrEqual(80)
    // the newer draft took the place of the older one
    expect(
      readdirSync(place.path('.anagnosis/drafts')).filter((n) => n.endsWith('.json')),
    ).toHaveLength(2)
  })

  test('a forecast tells what becomes of the edits, and writes nothing', () => {
    const place = workspace()
    place.write({
      'anagnosis.yaml': `${place.read('anagnosis.yaml')}files:\n  - { match: "notes.txt", take: vanilla }\n`,
    })
    const { code, document } = carry(place, 'harbour', '--to', '4.2', '--dry-run')
    expect(code).toBe(1)
    expect(document.variants[0]?.forecast).toEqual({
      carry: 6,
      ask: 2,
      lost: [{ why: 'policy', count: 1, keys: ['notes.txt: lines[2]'] }],
    })
    expect(document.variants[0]?.draft).toBeNull()
    expect(place.tree('.anagnosis/drafts')).toBeUndefined()
    expect(
      place.run(['carry', 'harbour', '--to', '4.2', '--dry-run']).out.replace(/\s+/g, ' '),
    ).toContain(
      'Of your 9 edits 6 carry, 2 need you, 1 lie in files that a take: vanilla policy replaces.',
    )
  })

  test('one that is refused does not keep the others; what is unknown names the nearest', () => {
    const place = workspace()
    rmSync(place.path('trench/salvage'), { recursive: true })
    rmSync(place.path('trench/notes.txt'))
    const { code, document } = carry(place, '--to', '4.2')
    expect(code).toBe(4)
    expect(document.variants.map(({ variant }) => variant)).toEqual(['harbour'])
    expect(document.problems).toMatchObject([{ code: 'carry/absent-files' }])
    expect(document.next).toContain('anagnosis carry trench --to 4.2 --yes')
    expect(carry(place, 'trench', '--to', '4.2', '--yes').code).toBe(1)
    expect(refused(place, 'carry', 'harbor', '--to', '4.2')).toMatchObject({
      code: 2,
      says: expect.stringContaining('did you mean harbour?') as string,
    })
    expect(refused(place, 'carry', 'harbour', '--to', '4.3')).toMatchObject({
      code: 2,
      says: expect.stringMatching(/vanilla\/unknown did you mean 4\.[12]\?/) as string,
    })
    expect(refused(place, 'carry', 'harbour', '--to', '4.2', '--out', 'x').code).toBe(2)
  })

  test('from another release than the config says only where --old says so', () => {
    const place = workspace()
    place.write({
      'harbour/rules/dive.json': dive(75, 9),
      'v2/salvage/finds.xml': finds(10, 20, 30, 40, 50, 60),
      'harbour/salvage/finds.xml': finds(10, 20, 30, 40, 50, 99),
      'harbour/notes.txt': 'tides\nfog\n',
    })
    place.run(['vanilla', 'remove', '4.2'])
    place.run(['vanilla', 'add', '4.2', 'v2'])
    const { code, says } = refused(place, 'carry', 'harbour', '--to', '4.2')
    expect([code, says]).toEqual([4, expect.stringContaining('carry/other-vanilla')])
    expect(says).toContain('anagnosis carry harbour --to 4.2 --json --old 4.2')
    expect(refused(place, 'carry', 'harbour', '--to', '4.2', '--yes').code).toBe(4)
    const guessed = carry(place, 'harbour', '--to', '4.2', '--old', 'guess').document
    expect(guessed.counts).toMatchObject({ edits: 3, conflicts: 0 })
    expect(carry(place, 'harbour', '--to', '4.2', '--old', '4.1').code).toBe(1)
  })

  test('without an old vanilla every difference is a question; a sparse variant has its files alone', () => {
    const place = workspace()
    place.write({
      'anagnosis.yaml':
        'variants:\n  harbour: { folder: harbour, vanilla: none }\n  few: { folder: few, vanilla: "4.1", sparse: true }\n',
      'few/rules/dive.json': dive(90, 16),
    })
    const none = carry(place, 'harbour', '--to', '4.2').document
    expect(none.variants[0]).toMatchObject({
      from: 'none',
      counts: { edits: 0, vanillaChanges: 0 },
    })
    expect(none.variants[0]?.counts.conflicts).toBeGreaterThan(6)
    expect(carry(place, 'few', '--to', '4.2').code).toBe(0)
    expect(draft(place, 'few')).toEqual({ 'rules/dive.json': dive(75, 16) })
  })
})

describe('settle by options', () => {
  test('lists questions with their choices, answers them, and the answers hold in the next carry', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    const { code, document } = settle(place, 'harbour', '--list')
    expect(code).toBe(1)
    expect(document.counts).toEqual({ questions: 3, open: 3, closed: 0, notLookedAt: 1 })
    const worth = document.questions.find(({ pattern }) => pattern === 'find[*]/worth')
    expect(worth?.choices.map(({ take, value }) => [take, value])).toEqual([
      ['mine', '4'],
      ['vanilla', '10'],
      ['value:40', '40'],
    ])
    const text = place.run(['settle', 'harbour', '--list']).out
    expect(text).toMatch(/4\.1 +4\.2 +harbour +draft/)
    expect(text).toContain('--take value:40')
    for (const line of text.split('\n')) expect(line.length).toBeLessThanOrEqual(80)

    const answered = settle(place, 'harbour', '--id', worth?.ids[0] ?? '', '--take', 'value:40')
    expect(answered.document.closed).toMatchObject([
      { path: 'salvage/finds.xml', key: 'find[f0]/worth', take: 'value:40', result: '40' },
    ])
    settle(place, 'harbour', '--file', 'Rules\\Dive.json', '--take', 'vanilla')
    const last = settle(place, 'harbour', '--file', 'notes.txt', '--take', 'both')
    expect(last.code).toBe(0)
    settle(
      place,
      'harbour',
      '--file',
      'rules/dive.json',
      '--key',
      'limits/divers',
      '--take',
      'value:7',
    )
    const settled = {
      'notes.txt': 'tides\nfog at dawn\nno fog\n',
      'rules/dive.json': dive(75, 7),
      'salvage/finds.xml': finds(40, 8, 12, 16, 20, 24, 7),
    }
    expect(draft(place, 'harbour')).toMatchObject(settled)
    const decisions = place.read('decisions/harbour.yaml')
    expect(decisions).toContain('take: both')
    // again, and with the keys of the file in another order: the same decisions, the same bytes
    expect(carry(place, 'harbour', '--to', '4.2').document.counts).toMatchObject({
      conflicts: 0,
      decided: 3,
    })
    expect(draft(place, 'harbour')).toMatchObject(settled)
    expect(place.read('decisions/harbour.yaml')).toBe(decisions)

    // of a trial revision only what moved is asked, with the earlier answer
    place.write({ 'v2/rules/dive.json': dive(70, 4) })
    place.run(['vanilla', 'add', '4.3', 'v2', '--trial'])
    const next = carry(place, 'harbour', '--to', '4.3').document
    expect(next.questions).toMatchObject([
      { pattern: 'limits/oxygen', earlier: { take: 'vanilla' } },
    ])
    expect(place.run(['settle', 'harbour', '--list']).out).toContain('You answered this before')
  })

  test('refuses with the reason what cannot be, and changes nothing', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    const before = draft(place, 'harbour')
    const cases: [string[], string][] = [
      [
        ['--file', 'rules/dive.json', '--key', 'limits/oxygen', '--take', 'value:lots'],
        'settle/not-applicable',
      ],
      [
        ['--file', 'rules/dive.json', '--key', 'limits/oxygen', '--take', 'source:"'],
        'settle/not-applicable',
      ],
      [
        ['--file', 'rules/dive.json', '--key', 'limits/oxygen', '--take', 'both'],
        'settle/not-applicable',
      ],
      [
        ['--file', 'rules/dive.json', '--key', 'limits/oxigen', '--take', 'mine'],
        'did you mean limits/oxygen?',
      ],
      [['--file', 'rules/diver.json', '--take', 'mine'], 'did you mean rules/dive.json?'],
      [['--file', 'own.ini', '--take', 'mine'], 'settle/nothing-open'],
      [['--id', '000000000000', '--take', 'mine'], 'settle/no-such-id'],
      [['--file', 'rules/dive.json', '--take', 'theirs'], 'call/wrong'],
      [['--file', 'rules/dive.json'], 'call/wrong'],
      [['--looked-at', 'fnd'], 'settle/no-such-group'],
      [['--from', 'trenc'], 'did you mean trench?'],
    ]
    for (const [args, says] of cases) {
      const failed = refused(place, 'settle', 'harbour', ...args)
      expect([args, failed.code, failed.says]).toEqual([args, 2, expect.stringContaining(says)])
    }
    expect(draft(place, 'harbour')).toEqual(before)
    expect(place.tree('decisions')).toBeUndefined()
    expect(refused(place, 'settle', 'trench', '--list')).toMatchObject({ code: 4 })
    expect(refused(place, 'settle', '--list').says).toContain('name one of harbour, trench')
  })

  test('takes over what was decided for another variant, and marks groups as looked at', () => {
    const place = workspace()
    carry(place, '--to', '4.2')
    settle(place, 'harbour', '--file', 'rules/dive.json', '--take', 'vanilla')
    settle(place, 'harbour', '--file', 'notes.txt', '--take', 'vanilla')
    const { code, document } = settle(place, 'trench', '--from', 'harbour')
    expect(code).toBe(0)
    expect(document.closed).toMatchObject([{ key: 'limits/oxygen', take: 'vanilla' }])
    expect(document.notApplied).toMatchObject([{ path: 'notes.txt', key: 'lines[2]' }])
    expect(draft(place, 'trench')['rules/dive.json']).toBe(dive(75, 8))
    expect(place.read('decisions/trench.yaml')).toContain('by: from')
    const looked = settle(place, 'harbour', '--looked-at', 'all').document
    expect([looked.lookedAt, looked.counts.notLookedAt]).toEqual([1, 0])
    // the mark holds as long as the rows are the same
    carry(place, 'harbour', '--to', '4.2')
    expect(settle(place, 'harbour', '--list').document.counts.notLookedAt).toBe(0)
    const overview = overviewDocument.parse(JSON.parse(place.run(['overview', '--json']).out))
    expect(overview.variants[0]).toMatchObject({
      conflicts: 1,
      drafts: [{ to: '4.2', open: 1, notLookedAt: 0, state: 'open' }],
    })
  })

  test('a file that cannot be read is a question', () => {
    const place = workspace()
    place.write({ 'harbour/rules/dive.json': '{"limits": ' })
    expect(carry(place, 'harbour', '--to', '4.2').code).toBe(3)
    const { document } = settle(place, 'harbour', '--list')
    expect(document.questions.find(({ kind }) => kind === 'file')).toMatchObject({
      paths: ['rules/dive.json'],
    })
    settle(place, 'harbour', '--file', 'rules/dive.json', '--take', 'vanilla')
    expect(draft(place, 'harbour')['rules/dive.json']).toBe(dive(75, 4))
    expect(carry(place, 'harbour', '--to', '4.2').code).toBe(1)
    expect(draft(place, 'harbour')['rules/dive.json']).toBe(dive(75, 4))
  })
})

describe('edits of a draft by hand', () => {
  test('are taken over: values at their keys, all else with the file; and brought onto the next release', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    const at = folderOf(place, 'harbour')
    place.write({
      [`${at}/rules/dive.json`]: dive(100, 5),
      [`${at}/own.ini`]: 'pier = 6\n; lights out\n',
    })
    const { document } = settle(place, 'harbour', '--list')
    expect(document.closed.map(({ path, key, take }) => [path, key, take])).toEqual([
      ['own.ini', '', 'source:pier = 6\n; lights out\n'],
      ['rules/dive.json', 'limits/oxygen', 'source:100'],
      ['rules/dive.json', 'limits/divers', 'source:5'],
    ])
    expect(place.read('decisions/harbour.yaml')).toContain('by: hand')
    // and again, before anybody asked
    place.write({ [`${at}/salvage/finds.xml`]: finds(4, 8, 12, 16, 20, 24, 70) })
    place.write({ 'v2/own.ini': 'pier = 6\nboats = 2\n', 'v2/rules/dive.json': dive(75, 4, 15) })
    place.run(['vanilla', 'add', '4.3', 'v2'])
    const { document: next } = carry(place, 'harbour', '--to', '4.3')
    expect(next.problems).toEqual([])
    expect(draft(place, 'harbour')).toMatchObject({
      'own.ini': 'pier = 6\nboats = 2\n; lights out\n',
      'rules/dive.json': dive(100, 5, 15),
      'salvage/finds.xml': finds(4, 8, 12, 16, 20, 24, 70),
    })
  })

  test('are no new files: these are told, and no carry and no drop of them goes unsaid', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    place.write({ [`${folderOf(place, 'harbour')}/rules/new.ini`]: 'a = 1\n' })
    const { code, document } = settle(place, 'harbour', '--list')
    expect([code, document.problems]).toMatchObject([1, [{ code: 'draft/strange-file' }]])
    expect(refused(place, 'carry', 'harbour', '--to', '4.2').code).toBe(4)
    expect(draft(place, 'harbour')['rules/new.ini']).toBe('a = 1\n')
  })

  test('stand beside what was edited live since', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    place.write({
      [`${folderOf(place, 'harbour')}/rules/dive.json`]: dive(100, 4),
      'harbour/rules/dive.json': dive(120, 9),
    })
    const { document } = carry(place, 'harbour', '--to', '4.2')
    expect(draft(place, 'harbour')['rules/dive.json']).toBe(dive(100, 9))
    expect(document.variants[0]?.problems).toMatchObject([{ code: 'draft/hand-edit-stands' }])
  })

  test('that cannot be read are told and left alone, and no carry goes over them unasked', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    const at = `${folderOf(place, 'harbour')}/rules/dive.json`
    place.write({ [at]: '{"limits": ' })
    const { code, document } = settle(place, 'harbour', '--list')
    expect([code, document.problems]).toMatchObject([3, [{ code: 'draft/malformed' }]])
    settle(place, 'harbour', '--file', 'notes.txt', '--take', 'vanilla')
    expect(place.read(at)).toBe('{"limits": ')
    const { code: again, says } = refused(place, 'carry', 'harbour', '--to', '4.2')
    expect([again, says]).toEqual([4, expect.stringContaining('anagnosis carry harbour --drop')])
    expect(carry(place, 'harbour', '--drop').document.dropped).toHaveLength(1)
    expect(carry(place, 'harbour', '--to', '4.2').code).toBe(1)
    expect(draft(place, 'harbour')['notes.txt']).toBe('tides\nfog at dawn\n')
  })
})

describe('a state that is not as it should be', () => {
  test('ends the run with a sentence, and nothing is lost', () => {
    const place = workspace()
    carry(place, 'harbour', '--to', '4.2')
    settle(place, 'harbour', '--file', 'notes.txt', '--take', 'vanilla')
    const decisions = place.read('decisions/harbour.yaml')
    const write = (text: string): void => {
      writeFileSync(place.path('decisions/harbour.yaml'), text)
    }
    const both = [
      ['settle', 'harbour', '--list'],
      ['carry', 'harbour', '--to', '4.2'],
    ]
    write(decisions.replace('take: vanilla', 'take: theirs'))
    for (const call of both)
      expect(refused(place, ...call)).toMatchObject({
        code: 3,
        says: expect.stringContaining('decisions/malformed') as string,
      })
    expect(place.run(both[0] ?? []).err).toContain('    9 |     take: theirs')
    write(decisions.replace('schema: 1', 'schema: 2'))
    for (const call of both) expect(refused(place, ...call).code).toBe(4)
    // decided elsewhere: the draft is behind, and is brought up to date
    write(decisions.replace('take: vanilla', 'take: mine'))
    settle(place, 'harbour', '--list')
    expect(draft(place, 'harbour')['notes.txt']).toBe('tides\nno fog\n')
    rmSync(place.path(`${folderOf(place, 'harbour')}/own.ini`))
    for (const call of both)
      expect(refused(place, ...call)).toMatchObject({
        code: 4,
        says: expect.stringContaining('draft/incomplete') as string,
      })
    place.run(['carry', 'harbour', '--drop'])
    carry(place, 'harbour', '--to', '4.2')
    place.write({ 'harbour/rules/dive.json': dive(121, 4) })
    expect(
      refused(place, 'settle', 'harbour', '--file', 'rules/dive.json', '--take', 'vanilla'),
    ).toEqual({
      code: 4,
      says: expect.stringContaining('anagnosis carry harbour --to 4.2') as string,
    })
    renameSync(place.path('harbour'), place.path('away'))
    expect(refused(place, 'carry', 'harbour', '--to', '4.2').code).toBe(2)
  })
})
