import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { PLAIN } from '../../src/show/paint.ts'
import { drawScreen } from '../../src/show/settle-screen/draw.ts'
import type { ScreenKey } from '../../src/show/settle-screen/keys.ts'
import { SettleScreen } from '../../src/show/settle-screen/screen.ts'
import { settleSummary } from '../../src/show/settle-screen/summary.ts'
import { readConfig } from '../../src/workspace/config/config.ts'
import { openDraft } from '../../src/workspace/draft/draft.ts'
import type { Disk } from '../../src/workspace/io/disk.ts'
import { DISK } from '../../src/workspace/io/disk.ts'
import { ScreenSettling } from '../../src/workspace/settle/screen-settling.ts'
import { addRelease } from '../../src/workspace/store/add-release.ts'
import { Store } from '../../src/workspace/store/store.ts'
import { carryVariant } from '../../src/workspace/variant/carry-variant.ts'
import { Workspace } from '../../src/workspace/workspace.ts'
import { temporaryFolder } from '../temporary.ts'
import { failingAt } from './failing-disk.ts'

const open = async (root: string, disk: Disk = DISK): Promise<Workspace> =>
  new Workspace(root, await readConfig(join(root, 'anagnosis.yaml')), disk)

type Files = Record<string, string>

/** A workspace with an open draft. */
async function drafted(old: Files, fresh: Files, mine: Files): Promise<string> {
  const root = temporaryFolder('screen')
  for (const [folder, files] of Object.entries({ v1: old, v2: fresh, live: mine }))
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(root, folder, path)), { recursive: true })
      writeFileSync(join(root, folder, path), text)
    }
  const config = "variants:\n  harbour: { folder: live, vanilla: '4.1' }\n"
  writeFileSync(join(root, 'anagnosis.yaml'), config)
  const workspace = await open(root)
  const now = new Date(2026, 2, 14)
  for (const [label, source] of [
    ['4.1', 'v1'],
    ['4.2', 'v2'],
  ] as const)
    await addRelease(new Store(workspace.layout), {
      label,
      sources: [join(root, source)],
      trial: false,
      only: [],
      now,
    })
  const call = { to: '4.2', yes: true, dryRun: false, now: new Date() }
  await carryVariant(workspace, workspace.variant('harbour'), call)
  return root
}

interface Sitting {
  screen: SettleScreen
  /** Presses keys: a word in angle brackets is a key with a name. Gives what stands on the screen. */
  press: (keys: string) => Promise<string>
  show: (width?: number, height?: number) => string
  keys: number
  end: () => Promise<void>
}

async function sit(root: string, disk?: Disk): Promise<Sitting> {
  const workspace = await open(root, disk)
  const settling = await ScreenSettling.open(workspace, workspace.variant('harbour'))
  const screen = await SettleScreen.open(settling, () => undefined)
  const show = (width = 80, height = 23): string =>
    drawScreen(screen.state, PLAIN, width, height).join('\n')
  const sitting: Sitting = {
    screen,
    show,
    keys: 0,
    async press(keys) {
      for (const [, name, sign] of keys.matchAll(/<([a-z-]+)>|([^])/g)) {
        sitting.keys++
        await screen.press((name === undefined ? { sign } : { name }) as ScreenKey) // names are those of keys
      }
      return show()
    },
    end: () => settling.close(),
  }
  return sitting
}

async function draftFile(root: string, path: string): Promise<string> {
  const draft = await openDraft((await open(root)).layout, 'harbour')
  return readFileSync(join(draft?.location ?? '', path), 'utf8')
}

/** So many finds of each of nine kinds; each kind has a pattern of its own in which both sides changed one value alike. */
const SIZES = [100, 60, 40, 30, 25, 20, 15, 9, 1]

/** The same, for what does not depend on how many there are. */
const FEW = [10, 6, 4, 3, 2, 2, 1, 1, 1]

function nineKinds(value: (kind: number) => number, sizes = SIZES): string {
  const finds = sizes.flatMap((size, kind) =>
    Array.from(
      { length: size },
      (_, i) => `  <find id="f${kind}-${i}"><k${kind}>${value(kind)}</k${kind}><n>${i}</n></find>`,
    ),
  )
  return `<finds>\n${finds.join('\n')}\n</finds>\n`
}

const nine = (sizes = SIZES): Promise<string> =>
  drafted(
    { 'finds.xml': nineKinds((kind) => kind + 10, sizes) },
    { 'finds.xml': nineKinds((kind) => kind + 20, sizes) },
    { 'finds.xml': nineKinds((kind) => kind + 30, sizes) },
  )

describe('the screen on which a draft is settled', () => {
  test('300 conflicts are 9 questions, and are settled in 18 keys', async () => {
    const root = await nine()
    const sitting = await sit(root)
    expect(sitting.show()).toContain('300 conflicts are 9 questions.')
    expect(sitting.show()).toMatch(/> find\[\*\]\/k0 +100 {2}#{20}/)
    expect(await sitting.press('2<enter>')).toContain(
      'Closed 100 keys: k0 is 20. 8 questions over 200 keys left.',
    )
    await sitting.press('2<enter>'.repeat(8))
    expect([sitting.keys, sitting.screen.state.data.questions]).toEqual([18, []])
    expect(await draftFile(root, 'finds.xml')).toBe(nineKinds((kind) => kind + 20))
    // with nothing open what vanilla brought is shown
    expect(sitting.show()).toContain('Nothing is open.')
    expect(sitting.screen.state.part).toBe('groups')
    await sitting.end()
  })

  test('an answer is taken back one by one; what is put aside comes last; the next start goes on at the same row', async () => {
    const root = await nine(FEW)
    const before = await draftFile(root, 'finds.xml')
    const sitting = await sit(root)
    await sitting.press('1<enter>2<enter>')
    expect(await sitting.press('uu')).toContain(
      'Taken back: 10 keys as before. 9 questions over 30 keys left.',
    )
    expect(await draftFile(root, 'finds.xml')).toBe(before)
    expect(await sitting.press('u')).toContain('no answer of this sitting')
    expect(await sitting.press('p')).toMatch(/> find\[\*\]\/k1 /)
    expect(await sitting.press('<end>')).toMatch(/> find\[\*\]\/k0 .*aside/)
    await sitting.press('<up><up>')
    const { question } = sitting.screen
    await sitting.end()
    const again = await sit(root)
    expect(again.screen.question?.pattern).toBe(question?.pattern)
    expect(again.screen.state.aside.size).toBe(1)
    await again.end()
  })

  test('an answer for one key, for a value that is typed, and for all at a pattern with those that differ first', async () => {
    const values = (list: readonly number[]): string =>
      `<a>${list.map((most, i) => `<f id="f${i}" most="${most}"/>`).join('\n')}</a>\n`
    const root = await drafted(
      { 'a.xml': values([2, 2, 2, 2, 5]) },
      { 'a.xml': values([3, 3, 3, 3, 7]) },
      { 'a.xml': values([8, 8, 8, 9, 20]) },
    )
    const sitting = await sit(root)
    expect(sitting.show()).toContain('(all 3 alike)  this key   every f[*]/@most')
    await sitting.press('s2<enter>')
    expect(await draftFile(root, 'a.xml')).toBe(values([3, 8, 8, 9, 20]))
    // what was typed is a value; rubbed out and given up it is none
    await sitting.press('499<rub-out><rub-out><rub-out><escape>')
    expect(await sitting.press('412<enter>')).toContain('Closed 2 keys: @most is 12.')
    expect(await draftFile(root, 'a.xml')).toBe(values([3, 12, 12, 9, 20]))
    await sitting.press('u')
    const preview = await sitting.press('ss2<enter>')
    expect(preview).toContain('4 keys would be closed')
    expect(preview).toContain('2 keys differ from the one at hand, and stand first')
    expect(preview.indexOf('f[f3]')).toBeLessThan(preview.indexOf('f[f1]'))
    expect(await sitting.press('<escape>')).toContain('Nothing was answered.')
    await sitting.press('<enter><enter>')
    expect(await draftFile(root, 'a.xml')).toBe(values([3, 3, 3, 3, 7]))
    await sitting.end()
  })

  test('search, one file after the other, what vanilla brought: looked at, and tuned', async () => {
    const root = await drafted(
      { 'a.ini': '[s]\na = 1\nb = 1\n', 'b.ini': 'c = 1\nd = 1\n' },
      { 'a.ini': '[s]\na = 2\nb = 1\nnew = 5\n', 'b.ini': 'c = 2\nd = 2\n' },
      { 'a.ini': '[s]\na = 3\nb = 1\n', 'b.ini': 'c = 3\nd = 1\n' },
    )
    const sitting = await sit(root)
    expect(await sitting.press('/s/a')).not.toContain('b.ini')
    expect(await sitting.press('<escape>')).toContain('b.ini')
    expect(await sitting.press('f')).toContain('Only a.ini.')
    expect(await sitting.press('ff')).toContain('All files.')
    const groups = await sitting.press('<tab>')
    expect(groups).toContain('2 groups of changes · 2 not looked at')
    await sitting.press('/a.ini<enter><right><enter>77<enter>')
    expect(await draftFile(root, 'a.ini')).toBe('[s]\na = 3\nb = 1\nnew = 77\n')
    expect(await sitting.press('<space>'.replace('<space>', ' '))).toContain(
      '1 group looked at; 1 left',
    )
    // any other key
    await sitting.press('ks/b<enter>9<enter>')
    expect(await draftFile(root, 'a.ini')).toContain('b = 9')
    expect(await sitting.press('ks/zz<enter>9<enter>')).toContain('Not done: a.ini has no key s/zz')
    const summary = settleSummary(sitting.screen.state.data, [], PLAIN, 80)
    expect(summary).toContain('a.ini: s/new: 77')
    expect(summary).toContain('1 group of changes of vanilla: nobody looked at them.')
    await sitting.end()
  })

  test('a window that is too small says so and names the options', async () => {
    const sitting = await sit(await nine(FEW))
    for (const [width, height] of [
      [59, 30],
      [100, 13],
      [20, 3],
    ] as const) {
      const lines = sitting.show(width, height).split('\n')
      expect(Math.max(...lines.map(({ length }) => length))).toBeLessThanOrEqual(width)
      expect(lines.length).toBeLessThanOrEqual(height)
      expect(lines[0]).toContain('This window is')
    }
    for (const [width, height] of [
      [60, 14],
      [80, 23],
      [200, 60],
    ] as const) {
      const lines = sitting.show(width, height).split('\n')
      expect(Math.max(...lines.map(({ length }) => length))).toBeLessThanOrEqual(width)
      expect(lines).toHaveLength(height)
      expect(lines.join('\n')).toContain('as vanilla has it')
    }
    await sitting.end()
  })
})

describe('under the screen', () => {
  test('an answer for which the disk is too full is not given, and nothing is lost', async () => {
    const root = await drafted(
      { 'a.ini': 'a = 1\nb = 1\n' },
      { 'a.ini': 'a = 2\nb = 2\n' },
      { 'a.ini': 'a = 3\nb = 3\n' },
    )
    const seen = { failed: 0, given: 0 }
    for (let nth = 1; nth < 45; nth++) {
      const sitting = await sit(root, failingAt(nth)).catch(() => undefined)
      if (sitting === undefined) continue
      const shown = await sitting.press('<home>2<enter>')
      await sitting.end()
      // whoever comes next finds the answer given, or the question open
      const again = await sit(root)
      const isGiven = again.screen.state.data.questions.length === 1
      expect(await draftFile(root, 'a.ini')).toBe(`a = ${isGiven ? 2 : 3}\nb = 3\n`)
      if (shown.includes('Not done:')) seen.failed++
      else expect(isGiven).toBe(true)
      if (isGiven) seen.given++
      await again.end()
      rmSync(join(root, 'decisions'), { recursive: true, force: true })
    }
    expect([seen.failed > 3, seen.given > 10]).toEqual([true, true])
  })

  test('an edit of the draft by hand meanwhile is kept, and so is every answer', async () => {
    const root = await nine(FEW)
    const sitting = await sit(root)
    await sitting.press('2<enter>')
    const draft = await openDraft((await open(root)).layout, 'harbour')
    const place = join(draft?.location ?? '', 'finds.xml')
    writeFileSync(place, readFileSync(place, 'utf8').replace('<n>7</n>', '<n>70</n>'))
    await sitting.press('2<enter>')
    const text = await draftFile(root, 'finds.xml')
    expect([
      text.includes('<n>70</n>'),
      text.includes('<k0>20</k0>'),
      text.includes('<k1>21</k1>'),
    ]).toEqual([true, true, true])
    await sitting.end()
  })

  test('an edit by hand that cannot be read is told on the screen, and in what it leaves behind', async () => {
    const root = await nine(FEW)
    const draft = await openDraft((await open(root)).layout, 'harbour')
    const place = join(draft?.location ?? '', 'finds.xml')
    writeFileSync(place, readFileSync(place, 'utf8').replace('</n>', ''))
    const sitting = await sit(root)
    expect(sitting.show()).toContain(
      '! finds.xml was edited by hand in the draft, and cannot be read',
    )
    expect(settleSummary(sitting.screen.state.data, [], PLAIN, 200)).toContain(
      'finds.xml was edited',
    )
    await sitting.end()
  })
})
