import { cpSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { ROOT, Workplace } from './program.ts'

/*
 * What people read, on the demo data. To write the files anew after a change that was meant:
 *   UPDATE_GOLDEN=1 npx vitest run test/cli/golden.test.ts
 */

const CARRY = ['carry', '--old', 'vanilla-4.1', '--new', 'vanilla-4.2', '--mine', 'old-harbour']

const STORY: readonly [name: string, call: readonly string[]][] = [
  [
    'setup',
    [
      ...['setup', '--variant', 'old-harbour', '--folder', 'old-harbour', '--game', 'Saltlantern'],
      ...['--vanilla', '4.1', '--source', 'vanilla-4.1'],
    ],
  ],
  ['vanilla-add', ['vanilla', 'add', '4.2', 'vanilla-4.2']],
  ['vanilla-list', ['vanilla', 'list']],
  ['vanilla-guess', ['vanilla', 'guess', 'old-harbour']],
  ['whatsnew', ['whatsnew', '4.1', '4.2', '--all']],
  ['whatsnew-for', ['whatsnew', '4.1', '4.2', '--for', 'old-harbour', '--file', 'rules/*']],
  ['carry', [...CARRY, '--out', 'carried']],
  ['carry-dry-run', [...CARRY, '--dry-run', '--config', 'anagnosis.yaml']],
  ['carry-variant', ['carry', 'old-harbour', '--to', '4.2']],
  [
    'settle-take',
    [
      ...['settle', 'old-harbour', '--file', 'salvage/finds.xml', '--take', 'value:12', '--alike'],
      ...['--key', 'find[diving-bell]/yield/@most'],
    ],
  ],
  ['settle-list', ['settle', 'old-harbour', '--list']],
  ['settle-rest', ['settle', 'old-harbour', '--file', '**', '--take', 'mine']],
  ['deliver-dry-run', ['deliver', 'old-harbour', '--dry-run']],
  ['deliver', ['deliver', 'old-harbour', '--yes']],
  ['restore', ['restore', '--yes']],
  ['backup-list', ['backup', 'list']],
  ['overview', ['overview']],
]

/** Output without what differs from run to run: the time and the temporary folder. */
function steady(text: string, place: Workplace): string {
  return (
    text
      .replaceAll(place.folder, '<folder>')
      .replace(/in\s+<folder>/g, 'in <folder>')
      .replace(/\d{4}-\d\d-\d\d \d\d:\d\d/g, '<day and time>')
      .replace(/-\d{8}-\d{4}(-\d+)?/g, '-<day-time>')
      .replace(/ {2,}<day and time>/g, '  <day and time>')
      // where such a name is shorter or longer by a number the line is broken elsewhere
      .replace(/(<day-time>[^\n]*)\n {2,}(?=[a-z(])/g, '$1 ')
  )
}

test('the story of the demo reads as it should, in 80 columns', () => {
  const place = new Workplace()
  cpSync(join(ROOT, 'demo/data'), place.folder, { recursive: true })
  for (const [name, call] of STORY) {
    const { out, err } = place.run(call)
    expect(err).toBe('')
    const wide = out.split('\n').filter((line) => line.length > 80 && !line.includes(place.folder))
    expect(wide).toEqual([])
    const file = join(ROOT, 'test/cli/golden', `${name}.txt`)
    const text = steady(out, place)
    if (process.env.UPDATE_GOLDEN === '1') writeFileSync(file, text)
    expect(existsSync(file)).toBe(true)
    expect(text, name).toBe(readFileSync(file, 'utf8').replace(/\r\n/g, '\n'))
  }
  const config = place.read('anagnosis.yaml')
  const written = join(ROOT, 'test/cli/golden/config.txt')
  if (process.env.UPDATE_GOLDEN === '1') writeFileSync(written, config)
  expect(config).toBe(readFileSync(written, 'utf8').replace(/\r\n/g, '\n'))
})

/** The calls that a page shows, in its order, as words. */
function callsIn(page: string): string[][] {
  const text = readFileSync(join(ROOT, 'docs', page), 'utf8')
  return [...text.matchAll(/^ {4}anagnosis (.*)$/gm)].map(([, call = '']) =>
    [...call.matchAll(/'([^']*)'|"([^"]*)"|(\S+)/g)].map(
      ([, single, double, plain]) => single ?? double ?? plain ?? '',
    ),
  )
}

test('what the guide and the help for troubles show works on the demo data, in their order', () => {
  const place = new Workplace()
  cpSync(join(ROOT, 'demo/data'), place.folder, { recursive: true })
  let transcript = ''
  for (const call of [...callsIn('guide.md'), ...callsIn('troubleshooting.md')]) {
    // where the guide has somebody who is asked
    const isAsked = (call[0] === 'deliver' || call[0] === 'restore') && !call.includes('--dry-run')
    const { code, out, err } = place.run(isAsked ? [...call, '--yes'] : call)
    transcript += `$ anagnosis ${call.join(' ')}\n${out}${err}(ended with ${code ?? ''})\n\n`
    expect([call, [0, 1].includes(code ?? -1)]).toEqual([call, true])
  }
  const file = join(ROOT, 'test/cli/golden/guide.txt')
  const text = steady(transcript, place)
  if (process.env.UPDATE_GOLDEN === '1') writeFileSync(file, text)
  expect(text).toBe(readFileSync(file, 'utf8').replace(/\r\n/g, '\n'))
})
