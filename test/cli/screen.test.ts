import { setTimeout as pause } from 'node:timers/promises'
import { describe, expect, test } from 'vitest'
import { overviewDocument } from '../../src/show/workspace-document.ts'
import { copiesOf, Workplace } from './program.ts'
import { hasTool, Terminal } from './terminal.ts'

/** A draft in which both sides changed 12 values alike, and two more. */
const drafted = copiesOf(() => {
  const file = (most: number, oxygen: number, charts: number): string =>
    `${Array.from({ length: 12 }, (_, i) => `[bell${i}]\nmost = ${most}\n`).join('')}[limits]\noxygen = ${oxygen}\ncharts = ${charts}\n`
  const place = new Workplace({
    'v1/dive.ini': file(2, 90, 4),
    'v2/dive.ini': `${file(3, 75, 6)}torches = 5\n`,
    'live/dive.ini': file(8, 120, 9),
    'anagnosis.yaml': 'variants:\n  harbour: { folder: live, vanilla: "4.1" }\n',
  })
  place.run(['vanilla', 'add', '4.1', 'v1'])
  place.run(['vanilla', 'add', '4.2', 'v2'])
  place.run(['carry', 'harbour', '--to', '4.2'])
  return place
})

const settle = ['settle', 'harbour']

function openIn(place: Workplace): number {
  const { out } = place.run(['overview', '--json'])
  return overviewDocument.parse(JSON.parse(out)).variants[0]?.drafts[0]?.open ?? -1
}

describe.skipIf(!hasTool('tmux'))('settle in a terminal', () => {
  test('answers by keys, in 80x24 and in what the window becomes, and leaves a summary', async () => {
    const place = drafted()
    const terminal = Terminal.of(place.folder, settle)
    await terminal.shows('14 conflicts are 3 questions.')
    terminal.press('2', 'Enter')
    const shown = await terminal.shows('Closed 12 keys: most is 3. 2 questions over 2 keys left.')
    expect(shown.split('\n').every((line) => line.length <= 80)).toBe(true)
    expect(openIn(place)).toBe(2)
    terminal.resize(50, 12)
    await terminal.shows('This window is 50x')
    // what nobody sees nobody answers
    terminal.press('1', 'Enter')
    await pause(300)
    terminal.resize(100, 30)
    await terminal.shows(/2 questions over 2 keys[^]*> limits\/\w+/)
    // all at once, as fast fingers do
    terminal.press('3', '7', '7', 'Enter')
    await terminal.shows('Closed 1 key')
    terminal.press('1', 'Enter')
    await terminal.shows('1 not looked at')
    terminal.press('A')
    await terminal.shows('0 left')
    terminal.press('q')
    const left = await terminal.shows('ended with 0')
    expect(left).toContain('14 keys decided')
    expect(left).toContain('anagnosis deliver harbour')
    expect(place.run(['overview', '--json']).out).toContain('"notLookedAt": 0')
  })

  test('is in colours where there are any, and without with NO_COLOR', async () => {
    const place = drafted()
    const escape = '\u001b['
    for (const [env, isColoured] of [
      [{ FORCE_COLOR: '1', CI: 'true' }, true],
      [{ NO_COLOR: '1', FORCE_COLOR: '' }, false],
    ] as const) {
      const terminal = Terminal.of(place.folder, settle, { env })
      await terminal.shows('3 questions.')
      expect(terminal.text(true).includes(escape)).toBe(isColoured)
      terminal.press('q')
      await terminal.shows('ended with 1')
    }
  })

  test('a window that is closed loses nothing, and the next start goes on at the same row', async () => {
    const place = drafted()
    const first = Terminal.of(place.folder, settle)
    await first.shows('3 questions.')
    first.press('2', 'Enter')
    await first.shows('Closed 12 keys')
    first.press('Down')
    await first.shows('> limits/charts')
    await pause(300)
    // while the draft is on a screen no other run changes it
    const other = place.run([...settle, '--file', 'dive.ini', '--take', 'mine'])
    expect([other.code, other.err]).toEqual([4, expect.stringContaining('another window')])
    expect(place.run(['carry', 'harbour', '--to', '4.2']).code).toBe(4)
    first.close()
    await pause(300)
    expect(openIn(place)).toBe(2)
    const next = Terminal.of(place.folder, settle)
    expect(await next.shows('2 questions.')).toContain('> limits/charts')
    next.press('C-c')
    await next.shows('ended with 130')
  })
})
