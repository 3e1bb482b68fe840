import {
  chmodSync,
  existsSync,
  rmSync,
  statSync,
  symlinkSync,
  renameSync,
  utimesSync,
} from 'node:fs'
import { describe, expect, test } from 'vitest'
import type { z } from 'zod'
import { carryVariantsDocument, failureDocument } from '../../src/show/carry-document.ts'
import { deliverDocument, restoreDocument } from '../../src/show/deliver-document.ts'
import { overviewDocument } from '../../src/show/workspace-document.ts'
import { copiesOf, Workplace } from './program.ts'

/** A server with a save, a log that is left out, a file of its own, and one that vanilla drops. */
const workspace = copiesOf(() => {
  const place = new Workplace({
    'v1/dive.ini': 'oxygen = 90\ncharts = 4\n',
    'v2/dive.ini': 'oxygen = 75\ncharts = 4\n',
    'v1/gone/old.ini': 'a = 1\n',
    'v2/new/reef.ini': 'b = 1\n',
    'v1/same.ini': 'c = 1\n',
    'v2/same.ini': 'c = 1\n',
    'v1/more.ini': 'd = 1\n',
    'v2/more.ini': 'd = 1\n',
    'live/dive.ini': 'oxygen = 90\ncharts = 9\n',
    'live/gone/old.ini': 'a = 1\n',
    'live/same.ini': 'c = 1\n',
    'live/more.ini': 'd = 1\n',
    'live/own.ini': 'mine = 1\n',
    'live/saves/one.sav': 'x',
    'live/dives.log': 'today',
    'anagnosis.yaml':
      '# ours\nvariants:\n  harbour: { folder: live, vanilla: "4.1" } # the pier\nfiles:\n  - { match: "*.log", take: leave-out }\nreminders:\n  - "Dive once to the reef."\n',
  })
  chmodSync(place.path('live/dive.ini'), 0o640)
  utimesSync(place.path('live/dive.ini'), new Date(2026, 0, 1), new Date(2026, 0, 1))
  place.run(['vanilla', 'add', '4.1', 'v1'])
  place.run(['vanilla', 'add', '4.2', 'v2'])
  return place
})

const carry = (place: Workplace, to = '4.2'): z.infer<typeof carryVariantsDocument> =>
  carryVariantsDocument.parse(JSON.parse(place.run(['carry', 'harbour', '--to', to, '--json']).out))

function deliver(
  place: Workplace,
  ...args: string[]
): { code: number | null; document: z.infer<typeof deliverDocument> } {
  const { code, out } = place.run(['deliver', 'harbour', '--yes', '--json', ...args])
  return { code, document: deliverDocument.parse(JSON.parse(out)) }
}

const draftOf = (place: Workplace, document: z.infer<typeof carryVariantsDocument>): unknown =>
  place.tree(`.anagnosis/drafts/${document.variants[0]?.draft ?? ''}`)

describe('deliver', () => {
  test('writes, adds and removes what the draft says, and nothing else; the config keeps every other byte', () => {
    const place = workspace()
    carry(place)
    const before = place.read('anagnosis.yaml')
    place.write({ 'live/saves/two.sav': 'y', 'live/same.ini': 'c = 1 ; touched since\n' })
    const plan = deliver(place, '--dry-run')
    expect([plan.code, plan.document.backup, plan.document.counts]).toEqual([
      0,
      null,
      { written: 1, added: 1, removed: 1, same: 4 },
    ])
    const { code, document } = deliver(place)
    expect([code, document.files, document.reminders]).toEqual([
      0,
      [
        { path: 'dive.ini', did: 'written' },
        { path: 'gone/old.ini', did: 'removed' },
        { path: 'new/reef.ini', did: 'added' },
      ],
      ['Dive once to the reef.'],
    ])
    expect(place.tree('live')).toEqual({
      'dive.ini': 'oxygen = 75\ncharts = 9\n',
      'dives.log': 'today',
      'more.ini': 'd = 1\n',
      'new/reef.ini': 'b = 1\n',
      'own.ini': 'mine = 1\n',
      'same.ini': 'c = 1 ; touched since\n',
      'saves/one.sav': 'x',
      'saves/two.sav': 'y',
    })
    expect(existsSync(place.path('live/gone'))).toBe(false)
    expect(statSync(place.path('live/dive.ini')).mode & 0o777).toBe(0o640)
    expect(place.read('anagnosis.yaml')).toBe(before.replace('"4.1"', '"4.2"'))
    const backup = place.tree(`.anagnosis/backups/${document.backup ?? ''}`) ?? {}
    expect(backup['dive.ini']).toBe('oxygen = 90\ncharts = 9\n')
    expect(backup['dives.log']).toBeUndefined()
    const overview = overviewDocument.parse(JSON.parse(place.run(['overview', '--json']).out))
    expect(overview.variants[0]).toMatchObject({
      vanilla: '4.2',
      wiped: [],
      lastDelivery: { vanilla: '4.2' },
      drafts: [{ state: 'delivered' }],
    })
  })

  test('is refused while something speaks against it, and nothing is written', () => {
    const place = workspace()
    place.write({ 'live/dive.ini': 'oxygen = 120\ncharts = 9\n' })
    const codes = (...args: string[]): [number | null, string[]] => {
      const { code, document } = deliver(place, ...args)
      return [code, document.refusals.map((each) => each.code)]
    }
    carry(place)
    expect(codes()).toEqual([4, ['deliver/open-questions']])
    expect(codes('--dry-run')).toEqual([4, ['deliver/open-questions']])
    place.run(['settle', 'harbour', '--file', 'dive.ini', '--take', 'vanilla'])
    place.write({ 'live/dive.ini': 'oxygen = 121\ncharts = 9\n', 'live/new/reef.ini': 'own = 1\n' })
    expect(codes()).toEqual([4, ['deliver/changed', 'deliver/changed']])
    expect(deliver(place).document.next).toEqual(['anagnosis carry harbour --to 4.2'])
    rmSync(place.path('live/new'), { recursive: true })
    place.write({ 'live/dive.ini': 'oxygen = 120\ncharts = 9\n' })
    place.write({
      'decisions/harbour.yaml': place
        .read('decisions/harbour.yaml')
        .replace('take: vanilla', 'take: mine'),
    })
    expect(codes()).toEqual([4, ['deliver/behind']])
    place.run(['settle', 'harbour', '--list'])
    const asked = place.run(['deliver', 'harbour', '--json'])
    expect([asked.code, failureDocument.parse(JSON.parse(asked.out)).next]).toEqual([
      4,
      ['anagnosis deliver harbour --json --yes'],
    ])
    expect(place.read('anagnosis.yaml')).toContain('"4.1"')
    place.run(['vanilla', 'add', '4.3', 'v2', '--trial'])
    carry(place, '4.3')
    expect(codes()).toEqual([4, ['deliver/trial']])
    const draft = `.anagnosis/drafts/${carry(place, '4.3').variants[0]?.draft ?? ''}`
    renameSync(place.path(`${draft}/dive.ini`), place.path('dive.ini'))
    expect(codes('--trial-too')).toEqual([4, ['draft/incomplete']])
    expect(deliver(place).document.next).toContain('anagnosis carry harbour --drop')
    renameSync(place.path('dive.ini'), place.path(`${draft}/dive.ini`))
    expect(deliver(place, '--trial-too').document.vanilla).toEqual({ was: '4.1', now: '4.3+1' })
    expect(place.read('anagnosis.yaml')).toContain('"4.3+1"')
  })

  test('follows a live folder that is a link, and puts links there as links', () => {
    const place = workspace()
    symlinkSync('dive.ini', place.path('v2/link.ini'))
    place.run(['vanilla', 'remove', '4.2'])
    place.run(['vanilla', 'add', '4.2', 'v2'])
    renameSync(place.path('live'), place.path('elsewhere'))
    symlinkSync('elsewhere', place.path('live'))
    carry(place)
    expect(deliver(place).code).toBe(0)
    expect(place.read('elsewhere/dive.ini')).toBe('oxygen = 75\ncharts = 9\n')
    expect(place.read('elsewhere/link.ini')).toBe('oxygen = 75\ncharts = 9\n')
    expect(statSync(place.path('live')).isDirectory()).toBe(true)
  })
})

test('what was decided and put live is not told again in the next update', () => {
  const place = workspace()
  place.write({
    'v3/dive.ini': 'oxygen = 75\ncharts = 5\n',
    'v3/same.ini': 'c = 1\n',
    'v3/more.ini': 'd = 1\n',
    'v3/new/reef.ini': 'b = 1\n',
  })
  place.run(['vanilla', 'add', '4.3', 'v3'])
  const draft = carry(place).variants[0]?.draft ?? ''
  place.run(['settle', 'harbour', '--file', 'same.ini', '--key', 'c', '--take', 'value:7'])
  place.write({ [`.anagnosis/drafts/${draft}/more.ini`]: 'd = 1\n; by hand\n' })
  place.run(['settle', 'harbour', '--list'])
  expect(deliver(place).code).toBe(0)
  const next = carry(place, '4.3')
  expect(next.variants[0]?.problems).toEqual([])
  expect(draftOf(place, next)).toMatchObject({
    'same.ini': 'c = 7\n',
    'more.ini': 'd = 1\n; by hand\n',
  })
})

describe('restore', () => {
  test('puts back bytes, modes, times and the vanilla; the carry after it gives the earlier draft', () => {
    const place = workspace()
    const first = draftOf(place, carry(place))
    const before = place.tree('live')
    const config = place.read('anagnosis.yaml')
    deliver(place)
    place.write({ 'live/saves/later.sav': 'z' })
    const { code, out } = place.run(['restore', '--yes', '--json'])
    const document = restoreDocument.parse(JSON.parse(out))
    expect([code, document.vanilla, document.files]).toEqual([
      0,
      { was: '4.2', now: '4.1' },
      [
        { path: 'dive.ini', did: 'put-back' },
        { path: 'gone/old.ini', did: 'put-back' },
        { path: 'new/reef.ini', did: 'appeared' },
        { path: 'saves/later.sav', did: 'appeared' },
      ],
    ])
    const { mode, mtime } = statSync(place.path('live/dive.ini'))
    expect([mode & 0o777, mtime.getTime()]).toEqual([0o640, new Date(2026, 0, 1).getTime()])
    expect(place.read('anagnosis.yaml')).toBe(config)
    expect(draftOf(place, carry(place))).toEqual({ ...(first as object), 'saves/later.sav': 'z' })
    // back to what was delivered, and back again without what came later
    place.run(['restore', '--yes'])
    expect(place.tree('live')?.['dive.ini']).toBe('oxygen = 75\ncharts = 9\n')
    place.run(['restore', document.backup, '--yes', '--remove-later'])
    expect(place.tree('live')).toEqual(before)
    const unknown = place.run(['restore', `${document.backup.slice(0, -1)}x`, '--yes'])
    expect([unknown.code, unknown.err]).toEqual([2, expect.stringContaining('did you mean')])
    expect(place.run(['restore', 'harbour']).err).toContain(
      'harbour is a variant, and its last backup',
    )
    // what is gone from a backup is not what appeared later
    rmSync(place.path(`.anagnosis/backups/${document.backup}/same.ini`))
    const damaged = place.run(['restore', document.backup, '--yes', '--remove-later'])
    expect([damaged.code, damaged.err]).toEqual([4, expect.stringMatching(/has 5 of 6\s+files/)])
    expect(place.tree('live')).toEqual(before)
  })
})

describe('a host reached by upload', () => {
  test('gets a parcel; what went wrong on the way is found, and the variant moves when all has arrived', () => {
    const place = workspace()
    const config = place
      .read('anagnosis.yaml')
      .replace('vanilla: "4.1"', 'vanilla: "4.1", upload: true')
    place.write({ 'anagnosis.yaml': config, 'v2/words.txt': 'Fog \u00e0 la carte\nand tides\n' })
    place.run(['vanilla', 'remove', '4.2'])
    place.run(['vanilla', 'add', '4.2', 'v2'])
    carry(place)
    const alone = place.run(['deliver', 'harbour', '--yes', '--json'])
    expect([alone.code, failureDocument.parse(JSON.parse(alone.out)).problems[0]?.code]).toEqual([
      2,
      'deliver/needs-parcel',
    ])
    expect(place.run(['deliver', 'harbour', '--confirm', 'fresh']).code).toBe(2)
    const made = deliver(place, '--parcel', 'parcel')
    expect([made.code, made.document.parcel]).toEqual([
      0,
      { location: 'parcel', upload: 3, delete: 1 },
    ])
    expect(place.read('anagnosis.yaml')).toBe(config)
    expect(place.read('parcel/DELETE.txt')).toContain('gone/old.ini')
    expect(JSON.parse(place.read('parcel/anagnosis-parcel.json'))).toMatchObject({
      variant: 'harbour',
      to: '4.2',
      delete: ['gone/old.ini'],
    })
    const zipped = deliver(place, '--parcel', 'parcel.zip')
    expect([zipped.code, zipped.document.parcel?.upload]).toEqual([0, 3])
    place.run(['vanilla', 'add', 'of the parcel', 'parcel.zip'])
    expect(place.run(['vanilla', 'guess', 'parcel', '--json']).out).toContain('of the parcel')
    expect(place.run(['vanilla', 'guess', 'parcel']).code).toBe(0)
    place.run(['vanilla', 'remove', 'of the parcel'])
    const confirm = (): [number | null, (string | undefined)[]] => {
      const { code, out } = place.run(['deliver', 'harbour', '--confirm', 'fresh', '--json'])
      const { findings = [] } = deliverDocument.parse(JSON.parse(out))
      return [code, findings.map(({ path, check }) => `${path} ${check}`)]
    }
    const arrived = {
      'fresh/dive.ini': 'oxygen = 75\ncharts = 9\n',
      'fresh/new/reef.ini': 'b = 1\n',
      'fresh/words.txt': 'Fog \u00e0 la carte\nand tides\n',
    }
    place.write({
      ...arrived,
      'fresh/dive.ini': 'oxygen = 75\r\ncharts = 9\r\n',
      'fresh/words.txt': Buffer.from('Fog \u00e0 la carte\nand tides\n', 'latin1'),
      'fresh/new/reef.ini': 'b =',
      'fresh/gone/old.ini': 'a = 1\n',
    })
    expect(confirm()).toEqual([
      1,
      [
        'dive.ini line-ends',
        'new/reef.ini cut-short',
        'words.txt encoding',
        'gone/old.ini not-deleted',
      ],
    ])
    rmSync(place.path('fresh/gone'), { recursive: true })
    rmSync(place.path('fresh/words.txt'))
    place.write({
      'fresh/dive.ini': 'oxygen = 90\ncharts = 9\n',
      'fresh/new/reef.ini': 'c = 1\n',
    })
    expect(confirm()).toEqual([
      1,
      ['dive.ini not-uploaded', 'new/reef.ini other', 'words.txt not-uploaded'],
    ])
    expect(place.read('anagnosis.yaml')).toBe(config)
    place.write(arrived)
    expect(confirm()).toEqual([0, []])
    expect(place.read('live/dive.ini')).toBe('oxygen = 75\ncharts = 9\n')
    expect(place.read('anagnosis.yaml')).toBe(config.replace('"4.1"', '"4.2"'))
    expect(place.run(['overview']).out).toContain('download  of a host; its newest file is of')
  })
})
