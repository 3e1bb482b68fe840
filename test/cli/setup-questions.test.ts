import { existsSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { Workplace } from './program.ts'
import { hasTool, Terminal } from './terminal.ts'

const tree = (folder: string, release: string, most: number): Record<string, string> => ({
  [`${folder}/build.json`]: `{ "game": "Saltlantern", "release": "${release}" }\n`,
  [`${folder}/rules/dive.ini`]: `oxygen = ${most}\n`,
  [`${folder}/rules/sea.ini`]: 'swell = 2\n',
})

/** A folder with two servers and two vanillas. */
const folders = (): Workplace =>
  new Workplace({
    ...tree('old-harbour', '4.1', 120),
    ...tree('trench', '4.2', 60),
    ...tree('vanilla-4.1', '4.1', 90),
    ...tree('vanilla-4.2', '4.2', 75),
  })

describe.skipIf(!hasTool('tmux'))('setup, asked in a terminal', () => {
  test('proposes what it finds, looks at each answer, and shows all before it writes', async () => {
    const place = folders()
    const terminal = Terminal.of(place.folder, ['setup'])
    await terminal.shows('A name for your server, map or set of mods: (old-harbour)')
    terminal.press('C-u', 'nul', 'Enter')
    await terminal.shows('nul cannot be a name')
    for (let i = 0; i < 3; i++) terminal.press('BSpace')
    terminal.press('trench', 'Enter')
    await terminal.shows('Its live folder, with the customised files: (trench)')
    terminal.press('nowhere', 'Enter')
    await terminal.shows('There is no folder nowhere.')
    for (let i = 0; i < 7; i++) terminal.press('BSpace')
    terminal.press('Enter')
    await terminal.shows(/made from[^]*\(4\.2\)/)
    terminal.press('Enter')
    await terminal.shows('(vanilla-4.2)')
    terminal.press('Enter')
    await terminal.shows('(Saltlantern)')
    terminal.press('Enter')
    await terminal.shows('variant trench: live folder trench, made from 4.2, of Saltlantern')
    expect(existsSync(place.path('anagnosis.yaml'))).toBe(false)
    terminal.press('Enter')
    await terminal.shows('ended with 0')
    expect(place.read('anagnosis.yaml')).toMatch(/trench: \{ folder: "?trench"?, vanilla: "4.2" \}/)
    // the next one is the other server, and what is known is not asked again
    const next = Terminal.of(place.folder, ['setup', '--folder', 'old-harbour', '--vanilla', '4.2'])
    await next.shows('(old-harbour)')
    next.press('Enter')
    await next.shows('(Saltlantern)')
    next.press('Enter')
    await next.shows('Is that right?')
    next.press('n', 'Enter')
    await next.shows('ended with 130')
    expect(place.read('anagnosis.yaml')).not.toContain('old-harbour:')
  })

  test('an interruption says what was done', async () => {
    const place = folders()
    const terminal = Terminal.of(place.folder, ['setup'])
    await terminal.shows('A name for')
    terminal.press('C-c')
    await terminal.shows('interrupted; nothing was written')
    await terminal.shows('ended with 130')
    expect(existsSync(place.path('anagnosis.yaml'))).toBe(false)
  })
})
