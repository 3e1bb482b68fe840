import { existsSync, readdirSync, readFileSync, symlinkSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { carryDocument, failureDocument } from '../../src/show/carry-document.ts'
import { Workplace } from './program.ts'

const dive = (oxygen: number, divers: number): string =>
  `{\n  "limits": {\n    "oxygen": ${oxygen},\n    "divers": ${divers}\n  }\n}\n`

const LAMP = {
  old: '<find id="lamp"><worth>5</worth></find>',
  retuned: '<find id="lamp"><worth>6</worth></find>',
}
const finds = (...entries: string[]): string =>
  `<finds>\n${entries.map((e) => `  ${e}\n`).join('')}</finds>\n`

/** Three folders in which each file comes to another outcome. */
function everyOutcome(): Workplace {
  return new Workplace({
    'old/rules/same.json': dive(90, 4),
    'new/rules/same.json': dive(90, 4),
    'mine/rules/same.json': dive(90, 4),
    'old/rules/retuned.json': dive(90, 4),
    'new/rules/retuned.json': dive(75, 4),
    'mine/rules/retuned.json': dive(90, 4),
    'old/rules/edited.json': dive(90, 4),
    'new/rules/edited.json': dive(90, 4),
    'mine/rules/edited.json': dive(90, 8),
    'old/rules/merged.json': dive(90, 4),
    'new/rules/merged.json': dive(75, 4),
    'mine/rules/merged.json': dive(90, 8),
    'old/rules/clash.json': dive(90, 4),
    'new/rules/clash.json': dive(75, 4),
    'mine/rules/clash.json': dive(120, 4),
    'new/salvage/added.xml': finds(LAMP.old),
    'mine/own.ini': '[pier]\nlights = 6\n',
    'old/gone.ini': 'a = 1\n',
    'mine/gone.ini': 'a = 1\n',
    'old/gone-but-edited.ini': 'a = 1\n',
    'mine/gone-but-edited.ini': 'a = 2\n',
    'old/emblem.bin': Buffer.from([0, 1]),
    'new/emblem.bin': Buffer.from([0, 2]),
    'mine/emblem.bin': Buffer.from([0, 3]),
  })
}

describe('carry on folders', () => {
  test('each file has its outcome, and the counts add up', () => {
    const place = everyOutcome()
    const { code, document } = place.carryJson('--yes')
    expect(code).toBe(1)
    expect(Object.fromEntries(document.files.map((file) => [file.path, file.outcome]))).toEqual({
      'emblem.bin': 'conflict',
      'gone-but-edited.ini': 'conflict',
      'gone.ini': 'removed',
      'own.ini': 'mine',
      'rules/clash.json': 'conflict',
      'rules/merged.json': 'merged',
      'rules/edited.json': 'mine',
      'rules/same.json': 'same',
      'rules/retuned.json': 'vanilla',
      'salvage/added.xml': 'added',
    })
    expect(document.counts).toEqual({
      files: 10,
      unread: 0,
      edits: 3,
      vanillaChanges: 4,
      both: 0,
      conflicts: 3,
      decided: 0,
    })
    const rows = document.files.flatMap((file) => file.changes)
    expect(rows.filter((row) => row.side === 'mine')).toHaveLength(document.counts.edits)
    expect(rows.filter((row) => row.side === 'vanilla')).toHaveLength(
      document.counts.vanillaChanges,
    )
    expect(
      document.files.flatMap((file) =>
        file.conflicts.map(({ key, kind }) => [file.path, key, kind]),
      ),
    ).toEqual([
      ['emblem.bin', '', 'file'],
      ['gone-but-edited.ini', '', 'gone-in-vanilla'],
      ['rules/clash.json', 'limits/oxygen', 'two-values'],
    ])
    const out = place.tree('out') ?? {}
    expect(out['rules/merged.json']).toBe(dive(75, 8))
    expect(out['rules/clash.json']).toBe(dive(120, 4))
    expect(out['gone-but-edited.ini']).toBe('a = 2\n')
    expect(Object.keys(out)).not.toContain('gone.ini')
  })

  test('a conflict names its key, its three values, and where they stand', () => {
    const { document } = everyOutcome().carryJson('--yes')
    const clash = document.files.find((file) => file.path === 'rules/clash.json')
    expect(clash?.conflicts[0]).toMatchObject({
      key: 'limits/oxygen',
      old: '90',
      new: '75',
      mine: '120',
      result: '120',
      at: {
        old: { line: 3, column: 5 },
        new: { line: 3, column: 5 },
        mine: { line: 3, column: 5 },
      },
    })
  })

  test('people are told the same in words, within 80 columns', () => {
    const { code, out, err } = everyOutcome().carry('--yes')
    expect(code).toBe(1)
    expect(err).toBe('')
    expect(out).toContain('Vanilla lowered it from 90 to 75. You have 120.')
    expect(out).toContain('rules/clash.json, line 3 of yours')
    expect(out).toContain('3 questions over 3 keys are open; until you answer, your values stand.')
    expect(out).toContain('The result is in out')
    expect(Math.max(...out.split('\n').map((line) => line.length))).toBeLessThanOrEqual(80)
    expect(out).not.toMatch(/<<<<<<<|>>>>>>>|\u001b/)
  })

  test('colours come where they are asked for, and NO_COLOR takes them away', () => {
    const coloured = everyOutcome().run(
      ['carry', '--old', 'old', '--new', 'new', '--mine', 'mine', '--out', 'out', '--yes'],
      { NO_COLOR: '', FORCE_COLOR: '1' },
    )
    expect(coloured.out).toContain('\u001b[')
  })

  test('a hundred conflicts that are alike are one question', () => {
    const many = (most: number): string =>
      finds(...Array.from({ length: 100 }, (_, i) => `<find id="f${i}" most="${most}"/>`))
    const place = new Workplace({
      'old/f.xml': many(2),
      'new/f.xml': many(3),
      'mine/f.xml': many(8),
    })
    const { out } = place.carry()
    expect(out).toContain('1 question over 100 keys is open')
    expect(out).toContain('find[*]/@most')
    expect(out).toContain('f0 (line 2), f1 (line 3), f2 (line 4) and 97 more')
    expect(out.split('\n').length).toBeLessThan(24)
  })

  test('a malformed file is named with its line, and every other file is carried', () => {
    const place = everyOutcome()
    const broken = dive(90, 8).replace('90,', '90')
    place.write({ 'mine/rules/merged.json': broken })
    const { code, document } = place.carryJson('--yes')
    expect(code).toBe(3)
    const file = document.files.find((each) => each.path === 'rules/merged.json')
    expect(file).toMatchObject({ outcome: 'unread', changes: [], conflicts: [] })
    expect(file?.problems).toEqual([
      expect.objectContaining({
        severity: 'error',
        code: 'json/missing-comma',
        line: 3,
        column: 17,
        input: 'mine',
      }),
    ])
    expect(place.read('out/rules/merged.json')).toBe(broken)
    expect(place.read('out/rules/retuned.json')).toBe(dive(75, 4))
    const { out } = place.carry('--replace', '--yes')
    expect(out).toContain('rules/merged.json:3:17 (in mine)  a comma is missing before "divers"')
    expect(out).toContain(
      '    3 |     "oxygen": 90\n                        ^ expected a comma here',
    )
    expect(out).toContain('The other 9 files are done.')
  })

  test('where an unclosed element was opened is told', () => {
    const broken = '<finds>\n  <find id="lamp">\n    <worth>5</worth>\n</finds>\n'
    const place = new Workplace({
      'old/f.xml': finds(LAMP.old),
      'new/f.xml': finds(LAMP.retuned),
      'mine/f.xml': broken,
    })
    const { code, out } = place.carry()
    expect(code).toBe(3)
    expect(out).toContain('f.xml:2:3 (in mine)  <find> is opened here and never closed')
    expect(out).toContain('    2 |   <find id="lamp">')
    expect(out).toContain('    4 | </finds>')
    expect(out).toMatch(/expected <\/find> before\s+<\/finds>/)
  })

  test('bytes that are no text are named by their place', () => {
    const place = new Workplace({
      'old/a.ini': 'a = 1\n',
      'new/a.ini': 'a = 2\n',
      'mine/a.ini': Buffer.from([0x61, 0x3d, 0x0a, 0x62, 0x3d, 0xe4, 0x0a]),
    })
    const { code, document } = place.carryJson()
    expect(code).toBe(3)
    expect(document.files[0]?.problems[0]).toMatchObject({
      code: 'text/not-utf-8',
      line: 2,
      column: 3,
    })
    expect(readFileSync(place.path('out/a.ini'))).toEqual(readFileSync(place.path('mine/a.ini')))
  })

  test('line ends and byte order mark of mine are kept', () => {
    const place = new Workplace({
      'old/a.ini': 'a = 1\nb = 1\n',
      'new/a.ini': 'a = 2\nb = 1\nc = 3\n',
      'mine/a.ini': '\uFEFFa = 1\r\nb = 9\r\n',
    })
    place.carry()
    expect(place.read('out/a.ini')).toBe('\uFEFFa = 2\r\nb = 9\r\nc = 3\r\n')
  })

  test('a file without a telling extension is judged by its content', () => {
    const place = new Workplace({
      'old/sea.cfg': '[sea]\na = 1\nb = 1\n',
      'new/sea.cfg': '[sea]\na = 2\nb = 1\n',
      'mine/sea.cfg': '[sea]\na = 1\nb = 3\n',
    })
    const { document } = place.carryJson()
    expect(document.files[0]).toMatchObject({ format: 'ini', outcome: 'merged' })
    expect(place.read('out/sea.cfg')).toBe('[sea]\na = 2\nb = 3\n')
  })

  test('a file on one side and a folder on the other is decided as a whole', () => {
    const place = new Workplace({ 'old/x': 'text', 'new/x/a.ini': 'a = 1\n', 'mine/x': 'my text' })
    const { code, document } = place.carryJson()
    expect(code).toBe(1)
    expect(document.files).toMatchObject([{ path: 'x', outcome: 'conflict' }])
    expect(place.tree('out')).toEqual({ x: 'my text' })
    expect(place.carry('--replace').out.replace(/\s+/g, ' ')).toContain(
      'a file in old, a folder in new. You have a file.',
    )
  })

  test.skipIf(process.platform === 'win32')('a link is carried as a link, and not followed', () => {
    const place = new Workplace({
      'old/a.ini': 'a = 1\n',
      'new/a.ini': 'a = 1\n',
      'mine/a.ini': 'a = 1\n',
    })
    symlinkSync('..', place.path('mine/up'))
    expect(place.carry().code).toBe(0)
    expect(readdirSync(place.path('out'))).toEqual(['a.ini', 'up'])
  })
})

describe('carry on files', () => {
  test('three files, a format that is said, and the base name of --out', () => {
    const place = new Workplace({ old: 'a = 1\n', new: 'a = 2\n', mine: 'a = 1\nb = 1\n' })
    const { code, document } = place.carryJson('--format', 'ini')
    expect(code).toBe(0)
    expect(document.files).toMatchObject([{ path: 'out', format: 'ini', outcome: 'merged' }])
    expect(place.read('out')).toBe('a = 2\nb = 1\n')
  })

  test('what is wrong in one is told by the path that the call gives it', () => {
    const place = new Workplace({ old: 'a = 1\n', new: 'a = 2\n', mine: 'b\n' })
    const { code, out } = place.carry('--format', 'ini')
    expect(code).toBe(3)
    expect(out).toContain('\nmine:1:1 (in mine)  this line is neither')
    expect(out).not.toContain('nothing is open')
  })

  test('repeated on its own result it changes nothing', () => {
    const place = new Workplace({ old: dive(90, 4), new: dive(75, 4), mine: dive(120, 8) })
    place.carry('--format', 'json')
    const first = place.read('out')
    place.write({ mine: first })
    place.carry('--format', 'json', '--replace')
    expect(place.read('out')).toBe(first)
  })
})

describe('what is refused', () => {
  const CASES: [what: string, args: string[], code: number, says: RegExp][] = [
    [
      'a missing path',
      ['carry', '--old', 'none-such', '--new', 'new', '--mine', 'mine', '--out', 'out'],
      2,
      /--old: looking at none-such failed: there is no such file/,
    ],
    [
      'a file where a folder is expected',
      ['carry', '--old', 'old', '--new', 'new', '--mine', 'one.json', '--out', 'out'],
      2,
      /--old old is a folder, but --mine one\.json is a file/,
    ],
    ['a missing flag', ['carry', '--old', 'old'], 2, /--new/],
    ['an unknown flag', ['carry', '--olde', 'old'], 2, /--olde/],
    ['an unknown command', ['carrot'], 2, /carrot/],
    [
      'an output inside an input',
      ['carry', '--old', 'old', '--new', 'new', '--mine', 'mine', '--out', 'mine/out'],
      4,
      /--out mine\/out lies in --mine mine/,
    ],
    [
      'an output over an input',
      ['carry', '--old', 'old', '--new', 'new', '--mine', 'mine', '--out', '.', '--replace'],
      4,
      /--out \. lies over --old old/,
    ],
    [
      'an output that is an input',
      ['carry', '--old', 'old', '--new', 'new', '--mine', 'mine', '--out', 'mine', '--replace'],
      4,
      /--out is the same as --mine/,
    ],
    [
      'an output that exists',
      ['carry', '--old', 'old', '--new', 'new', '--mine', 'mine', '--out', 'there'],
      4,
      /there exists already/,
    ],
    [
      'a config with a wrong key',
      [
        'carry',
        '--old',
        'old',
        '--new',
        'new',
        '--mine',
        'mine',
        '--out',
        'out',
        '--config',
        'wrong.yaml',
      ],
      2,
      /wrong\.yaml:2:5 .*there is no key mach here(.|\n)*did you mean match\?/,
    ],
    [
      'a config with a key that is not built',
      [
        'carry',
        '--old',
        'old',
        '--new',
        'new',
        '--mine',
        'mine',
        '--out',
        'out',
        '--config',
        'later.yaml',
      ],
      2,
      /later\.yaml:1:1 .*rules: is not built yet/,
    ],
    [
      'a config that is no YAML',
      [
        'carry',
        '--old',
        'old',
        '--new',
        'new',
        '--mine',
        'mine',
        '--out',
        'out',
        '--config',
        'no.yaml',
      ],
      2,
      /no\.yaml:\d+:\d+ .*this is no YAML/,
    ],
  ]

  function place(): Workplace {
    return new Workplace({
      'old/a.json': '{}',
      'new/a.json': '{}',
      'mine/a.json': '{}',
      'one.json': '{}',
      'there/kept.txt': 'kept',
      'wrong.yaml': 'files:\n  - mach: "*.json"\n    take: mine\n',
      'later.yaml': 'rules:\n  - for: x\n',
      'no.yaml': 'files: [',
    })
  }

  test.each(CASES)('%s', (_what, args, code, says) => {
    const at = place()
    const plain = at.run(args)
    expect(plain.err).toMatch(says)
    expect(plain.err).not.toMatch(/\n\s+at /)
    expect(plain.code).toBe(code)
    const json = at.run([...args, '--json'])
    expect(json.code).toBe(code)
    expect(failureDocument.parse(JSON.parse(json.out)).problems).toHaveLength(1)
    expect(existsSync(at.path('out'))).toBe(false)
    expect(at.tree('there')).toEqual({ 'kept.txt': 'kept' })
    expect(readdirSync(at.folder).filter((name) => name.includes('.anagnosis-'))).toEqual([])
  })
})

describe('the config is held against the files', () => {
  const config = (rule: string): string => `files:\n  - match: "salvage/*.xml"\n${rule}`
  const place = (text: string): Workplace => {
    const many = finds(...['lamp', 'bell', 'clasp'].map((id) => `<find id="${id}" sort="a"/>`))
    const files = ['old', 'new', 'mine'].map((side) => [`${side}/salvage/finds.xml`, many])
    return new Workplace({ ...Object.fromEntries(files), 'config.yaml': text })
  }
  const said = (text: string): [number | null, string[]] => {
    const { code, document } = place(text).carryJson('--config', 'config.yaml')
    const told = document.problems.filter(({ code: name }) => name.startsWith('config/'))
    return [code, told.map(({ code: name, hint }) => `${name} ${hint}`)]
  }

  test('a pattern and a place that fit nothing are told, with the nearest that is there', () => {
    expect(said('files:\n  - match: "salvage/find.xml"\n    take: mine\n')).toEqual([
      0,
      ['config/match-fits-nothing did you mean salvage/finds.xml?'],
    ])
    expect(
      said(config('    identity: { "fnd": "@id" }\n    list: { "find/@sort": ";" }\n')),
    ).toEqual([0, ['config/place-fits-nothing did you mean find?']])
    const rest = '    order: { "find": matters }\n    together: [["find/@id", "find/@srot"]]\n'
    expect(said(config(rest))).toEqual([0, ['config/place-fits-nothing did you mean find/@sort?']])
  })

  test('an identity that tells less than half of the entries ends the run, and nothing is written', () => {
    const at = place(config('    identity: { "find": "@sort" }\n'))
    const { code, err } = at.carry('--config', 'config.yaml')
    expect(code).toBe(2)
    expect(err.replace(/\s+/g, ' ')).toContain('apart by @sort, but 3 of 3 lack it')
    expect(err).toContain('write @id')
    expect(at.tree('out')).toBeUndefined()
  })
})

describe('policies of the config', () => {
  test('take and leave-out', () => {
    const place = everyOutcome()
    place.write({
      'config.yaml':
        'files:\n  - { match: "rules/clash.json", take: vanilla }\n  - { match: "rules/merged.json", take: mine }\n  - { match: "emblem.bin", take: leave-out }\n  - { match: "own.ini", take: vanilla }\n',
    })
    const { code, document } = place.carryJson('--yes', '--config', 'config.yaml')
    expect(code).toBe(1)
    const of = (path: string): (typeof document.files)[number] | undefined =>
      document.files.find((file) => file.path === path)
    expect(of('rules/clash.json')).toMatchObject({
      outcome: 'vanilla',
      counts: { conflicts: 0, decided: 1 },
    })
    expect(of('rules/clash.json')?.changes).toMatchObject([
      { key: 'limits/oxygen', mine: '120', result: '75', by: 'take: vanilla' },
    ])
    expect(of('rules/merged.json')?.changes).toContainEqual(
      expect.objectContaining({ key: 'limits/oxygen', result: '90', by: 'take: mine' }),
    )
    expect(of('emblem.bin')?.outcome).toBe('left-out')
    const out = place.tree('out') ?? {}
    expect(out['rules/clash.json']).toBe(dive(75, 4))
    expect(out['rules/merged.json']).toBe(dive(90, 8))
    expect(out['own.ini']).toBe('[pier]\nlights = 6\n')
    expect(out['emblem.bin']).toBeUndefined()
  })

  test('an identity that is said is used', () => {
    const boats = (...crews: number[]): string =>
      `[${crews.map((crew, i) => `{"berth": "b${i}", "name": "boat", "crew": ${crew}}`).join(', ')}]\n`
    const place = new Workplace({
      'old/b.json': boats(1, 2),
      'new/b.json': boats(1, 3),
      'mine/b.json': boats(1, 4),
      'config.yaml': 'files:\n  - match: "*.json"\n    identity: { "": "berth" }\n',
    })
    const { document } = place.carryJson('--config', 'config.yaml')
    expect(document.files[0]?.conflicts.map((conflict) => conflict.key)).toEqual(['[b1]/crew'])
  })
})

describe('a forecast, and carries without an old vanilla', () => {
  test('--dry-run writes nothing and says the same', () => {
    const place = everyOutcome()
    const forecast = place.carryJson('--yes', '--dry-run')
    expect(place.tree('out')).toBeUndefined()
    const real = place.carryJson('--yes')
    expect(forecast.document).toMatchObject({ dryRun: true, out: null })
    expect(real.document).toMatchObject({
      dryRun: false,
      out: 'out',
      inputs: { old: 'old', new: 'new', mine: 'mine' },
    })
    const call = { dryRun: true, out: null, next: [] }
    expect({ ...forecast.document, ...call }).toEqual({ ...real.document, ...call })
    // what is proposed means the same, and writes over nothing
    for (const next of real.document.next) expect(next).not.toContain('--replace')
    expect(forecast.code).toBe(real.code)
    const { out } = place.run([
      'carry',
      '--old',
      'old',
      '--new',
      'new',
      '--mine',
      'mine',
      '--dry-run',
      '--yes',
    ])
    expect(out).toMatch(/^Forecast: carrying mine from old to new; nothing was written/)
    expect(out).not.toContain('The result is in')
  })

  test('--old none makes every difference a question, and mine stands', () => {
    const place = new Workplace({
      'new/a.json': '{"a": 1, "b": 2, "c": [1]}',
      'mine/a.json': '{"a": 1, "b": 3, "d": true}',
      'new/added.ini': 'a = 1\n',
      'mine/same.ini': 'a = 1\n',
      'new/same.ini': 'a = 1\n',
    })
    const { code, out } = place.run([
      'carry',
      '--old',
      'none',
      '--new',
      'new',
      '--mine',
      'mine',
      '--out',
      'out',
      '--json',
    ])
    expect(code).toBe(1)
    const document = carryDocument.parse(JSON.parse(out))
    expect(
      document.files
        .flatMap((file) => file.conflicts.map(({ key, kind }) => `${file.path} ${key} ${kind}`))
        .sort(),
    ).toEqual([
      'a.json b two-new',
      'a.json c gone-in-mine',
      'a.json d gone-in-vanilla',
      'added.ini  gone-in-mine',
    ])
    expect(document.counts).toMatchObject({ edits: 0, vanillaChanges: 0, both: 0, conflicts: 4 })
    expect(place.tree('out')).toEqual({
      'a.json': '{"a": 1, "b": 3, "d": true}',
      'same.ini': 'a = 1\n',
    })
  })
})

describe('encodings', () => {
  const latin = (text: string): Buffer => Buffer.from(text, 'latin1')

  test('what an XML declaration names is read and written; what it lacks becomes a reference', () => {
    const xml = (worth: number, note: string): string =>
      `<?xml version="1.0" encoding="windows-1252"?>\n<a><worth>${worth}</worth><note>${note}</note></a>\n`
    const utf8 = (text: string): string => text.replace('windows-1252', 'utf-8')
    const place = new Workplace({
      'old/a.xml': latin(xml(1, 'Köder')),
      'new/a.xml': utf8(xml(2, 'Köder – 深い')),
      'mine/a.xml': latin(xml(1, 'Köder').replace('<note>', '<!-- für uns --><note>')),
    })
    const { code, document } = place.carryJson()
    expect(code).toBe(0)
    expect(document.files[0]?.reading?.encoding).toBe('utf-8')
    expect(place.read('out/a.xml')).toBe(
      utf8(xml(2, 'Köder – 深い')).replace('<note>', '<!-- für uns --><note>'),
    )
    place.write({
      'old/a.xml': utf8(xml(1, 'Köder')),
      'new/a.xml': utf8(xml(2, 'Köder 深い')),
      'mine/a.xml': latin(xml(1, 'Köder')),
    })
    place.carry('--replace')
    expect(readFileSync(place.path('out/a.xml'), 'latin1')).toBe(xml(2, 'Köder &#x6DF1;&#x3044;'))
  })

  test('bytes of one alphabet or another are carried as they are', () => {
    const place = new Workplace({
      'old/a.ini': latin('a = ß\nb = 1\n'),
      'new/a.ini': latin('a = ß\nb = 2\n'),
      'mine/a.ini': latin('a = ä\nb = 1\n'),
    })
    expect(place.carry().code).toBe(0)
    expect(readFileSync(place.path('out/a.ini'), 'latin1')).toBe('a = ä\nb = 2\n')
  })

  test('where vanilla is UTF-8, the words that both have tell the alphabet; new’s form where it lacks one', () => {
    const place = new Workplace({
      'old/a.ini': 'bait = Köder\ndepth = 1\n',
      'new/a.ini': 'bait = Köder\ndepth = 2\n',
      'mine/a.ini': latin('bait = Köder\ndepth = 1\nreef = Straße\n'),
    })
    expect(place.carryJson().document.files[0]?.reading?.encoding).toBe('windows-1252')
    expect(readFileSync(place.path('out/a.ini'), 'latin1')).toBe(
      'bait = Köder\ndepth = 2\nreef = Straße\n',
    )
    place.write({ 'new/a.ini': 'bait = Köder\ndepth = 2\nname = 深い\n' })
    const { files } = place.carryJson('--replace').document
    expect(files[0]?.problems.map(({ code }) => code)).toEqual(['text/encoding-of-new'])
    expect(place.read('out/a.ini')).toBe('bait = Köder\ndepth = 2\nname = 深い\nreef = Straße\n')
    place.write({ 'mine/a.ini': latin('bait = Wurm\ndepth = 1\nreef = Straße\n') })
    expect(place.carryJson('--replace').document.files[0]?.problems[0]).toMatchObject({
      code: 'text/not-utf-8',
      line: 3,
    })
  })

  test('an alphabet that vanilla’s other files have is no error', () => {
    const place = new Workplace({
      'old/a.ini': 'depth = 1\n',
      'old/b.txt': latin('Köder'),
      'new/a.ini': 'depth = 2\n',
      'new/b.txt': latin('Köder'),
      'mine/a.ini': latin('depth = 1\nreef = Straße\n'),
      'mine/b.txt': latin('Köder'),
    })
    expect(place.carry().code).toBe(0)
    expect(readFileSync(place.path('out/a.ini'), 'latin1')).toBe('depth = 2\nreef = Straße\n')
  })

  test('UTF-16 with its mark', () => {
    const utf16 = (text: string): Buffer => Buffer.from(`\uFEFF${text}`, 'utf16le')
    const place = new Workplace({
      'old/a.ini': utf16('a = 1\r\nb = 1\r\n'),
      'new/a.ini': utf16('a = 2\r\nb = 1\r\n'),
      'mine/a.ini': utf16('a = 1\r\nb = ä\r\n'),
    })
    expect(place.carry().code).toBe(0)
    expect(readFileSync(place.path('out/a.ini'), 'utf16le')).toBe('\uFEFFa = 2\r\nb = ä\r\n')
  })
})

describe('text without keys', () => {
  const lines = (...numbers: (number | string)[]): string =>
    numbers.map((line) => `line ${line}\n`).join('')

  test('is merged by lines, and overlapping regions are conflicts', () => {
    const place = new Workplace({
      'old/notes.md': lines(1, 2, 3, 4, 5, 6, 7),
      'new/notes.md': lines(1, '2 anew', 3, 4, '5 anew', 6, 7, 8),
      'mine/notes.md': lines('0 of mine', 1, 2, 3, 4, '5 of mine', 6, 7),
    })
    const { code, document } = place.carryJson()
    expect(code).toBe(1)
    expect(document.files[0]).toMatchObject({
      format: 'text',
      outcome: 'conflict',
      counts: { edits: 1, vanillaChanges: 2, conflicts: 1 },
    })
    expect(document.files[0]?.conflicts).toMatchObject([
      { key: 'lines[5]', kind: 'lines', old: 'line 5', new: 'line 5 anew', mine: 'line 5 of mine' },
    ])
    expect(place.read('out/notes.md')).toBe(
      lines('0 of mine', 1, '2 anew', 3, 4, '5 of mine', 6, 7, 8),
    )
  })
})

describe('a file that only looks like a format', () => {
  const tree = (depth: number, name: string): string =>
    `{./common.cfg}\n[dive]\n  depth=${depth}\n  [bell]\n    name=${name}\n  [/bell]\n[/dive]\n`
  const folders = (of: (depth: number, name: string) => string): Record<string, string> => ({
    'old/dive.cfg': of(40, 'Storm'),
    'new/dive.cfg': of(45, 'Storm'),
    'mine/dive.cfg': of(40, 'Old Harbour'),
  })

  test.each([
    ['it begins like JSON', tree],
    ['its tags stand in each other', (...said: [number, string]) => tree(...said).slice(15)],
  ])('is merged by lines, and that is said: %s', (_why, of) => {
    const place = new Workplace(folders(of))
    const { code, document } = place.carryJson()
    expect(code).toBe(0)
    expect(document.files[0]).toMatchObject({ format: 'text', outcome: 'merged' })
    expect(document.files[0]?.problems).toMatchObject([{ code: 'file/by-lines' }])
    expect(place.read('out/dive.cfg')).toBe(of(45, 'Old Harbour'))
  })

  test('is unread where the file of mine alone is malformed', () => {
    const place = new Workplace({
      'old/dive.data': '{ "depth": 40 }\n',
      'new/dive.data': '{ "depth": 45 }\n',
      'mine/dive.data': '{ "depth": 40\n',
    })
    const { code, document } = place.carryJson()
    expect(code).toBe(3)
    expect(document.files[0]).toMatchObject({
      outcome: 'unread',
      problems: [{ code: 'json/unclosed', input: 'mine', line: 1 }],
    })
  })
})

describe('files under other paths', () => {
  const find = (id: string, worth: number): string =>
    `<find id="${id}"><worth>${worth}</worth><weight>3</weight></find>`
  const many = (worth: number): string =>
    finds(...Array.from({ length: 9 }, (_, i) => find(`f${i}`, i === 0 ? worth : i)))

  test('a file that vanilla renamed is found again, with the edits in it', () => {
    const place = new Workplace({
      'old/finds.xml': many(1),
      'new/salvage/finds-a.xml': many(1).replace('<weight>3', '<weight>4'),
      'mine/finds.xml': many(70),
      'new/other.ini': 'a = 1\n',
    })
    const { code, document } = place.carryJson()
    expect(code).toBe(0)
    expect(document.files.map(({ path, outcome, was }) => ({ path, outcome, was }))).toEqual([
      { path: 'other.ini', outcome: 'added', was: undefined },
      { path: 'salvage/finds-a.xml', outcome: 'renamed', was: 'finds.xml' },
    ])
    expect(place.tree('out')).toEqual({
      'other.ini': 'a = 1\n',
      'salvage/finds-a.xml': many(70).replace('<weight>3', '<weight>4'),
    })
  })

  test('a file that mine renamed takes what vanilla changed', () => {
    const place = new Workplace({
      'old/finds.xml': many(1),
      'new/finds.xml': many(5),
      'mine/mine.xml': many(1),
    })
    expect(place.carry().code).toBe(0)
    expect(place.tree('out')).toEqual({ 'mine.xml': many(5) })
  })

  test('paths that differ by capitals alone are one, with a warning', () => {
    const place = new Workplace({
      'old/Rules/dive.json': dive(90, 4),
      'new/rules/dive.json': dive(75, 4),
      'mine/Rules/dive.json': dive(90, 8),
    })
    const { document } = place.carryJson()
    expect(place.tree('out')).toEqual({ 'rules/dive.json': dive(75, 8) })
    expect(document.problems.map((problem) => problem.code)).toEqual(['file/other-capitals'])
  })
})

describe('--explain', () => {
  test('tells of one key its places, the identities and why', () => {
    const place = new Workplace({
      'old/f.xml': finds(LAMP.old, '<find id="bell"/>'),
      'new/f.xml': finds(LAMP.retuned, '<find id="bell"/>'),
      'mine/f.xml': finds(LAMP.old, '<find id="bell" own="1"/>'),
    })
    const { code, out } = place.carry('--explain', 'f.xml:find[lamp]/worth')
    expect(code).toBe(0)
    expect(out).toMatch(
      /old +5 +\(line 2, column 19\)\n +new +6 +\(line 2, column 19\)\n +mine +5 .*\n +result +6/,
    )
    expect(out).toContain('Only vanilla has changed it, so it is as in new.')
    expect(out).toContain('Entries at find are told apart by @id.')
    const untouched = place.carry('--replace', '--explain', 'find[bell]/@id')
    expect(untouched.out).toContain('Neither vanilla nor you changed it by itself.')
    const { explain } = place.carryJson('--replace', '--explain', 'find[lamp]/worth').document
    expect(explain).toMatchObject({
      path: 'f.xml',
      identity: 'find by @id',
      new: { value: '6', line: 2, column: 19 },
      result: '6',
      by: null,
    })
    const unknown = place.carry('--replace', '--explain', 'find[lmp]/worth')
    expect(unknown).toMatchObject({ code: 2, out: '' })
    expect(unknown.err).toContain('did you mean f.xml: find[lamp]/worth?')
  })
})
