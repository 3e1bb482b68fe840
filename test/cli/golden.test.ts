import { cpSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { carryDocument } from '../../src/show/carry-document.ts'
import type { Ran } from './program.ts'
import { ROOT, Workplace } from './program.ts'

/*
 * What people read, on the demo data. To write the files anew after a change that was meant:
 *   UPDATE_GOLDEN=1 npx vitest run test/cli/golden.test.ts
 */

/** What is called where the demo has been run, besides what it calls itself. */
const CALLS: readonly [name: string, call: readonly string[]][] = [
  ['vanilla-list', ['vanilla', 'list']],
  ['whatsnew', ['whatsnew', '4.1', '4.2', '--all']],
  ['whatsnew-for', ['whatsnew', '4.1', '4.2', '--for', 'old-harbour', '--file', 'rules/*']],
  ['settle-list', ['settle', 'old-harbour', '--list']],
  ['deliver-dry-run', ['deliver', 'old-harbour', '--dry-run']],
  ['backup-list', ['backup', 'list']],
  ['restore', ['restore', '--yes']],
]

/** Output without what differs from run to run: the time and the temporary folder. */
function steady(text: string, place: Workplace): string {
  return (
    text
      .replaceAll(place.folder, '<folder>')
      .replace(/in\s+<folder>/g, 'in <folder>')
      .replace(/\d{4}-\d\d-\d\d \d\d:\d\d/g, '<day and time>')
      .replace(/\d{4}-\d\d-\d\d/g, '<day>')
      .replace(/-\d{8}-\d{4}(-\d+)?/g, '-<day-time>')
      .replace(/ {2,}<day and time>/g, '  <day and time>')
      // where such a name is shorter or longer by a number the line is broken elsewhere
      .replace(/(<day-time>[^\n]*)\n {2,}(?=[a-z(])/g, '$1 ')
  )
}

/** What is told is what a file says. */
function expectGolden(name: string, text: string): void {
  const file = join(ROOT, 'test/cli/golden', `${name}.txt`)
  if (process.env.UPDATE_GOLDEN === '1') writeFileSync(file, text)
  expect(existsSync(file)).toBe(true)
  expect(text, name).toBe(readFileSync(file, 'utf8').replace(/\r\n/g, '\n'))
}

/** What a call printed is what a file says, and fits a terminal. */
function told(name: string, { out, err }: Ran, place: Workplace): void {
  expect(err).toBe('')
  const wide = out.split('\n').filter((line) => line.length > 80 && !line.includes(place.folder))
  expect(wide).toEqual([])
  expectGolden(name, steady(out, place))
}

test('the demo and what is called after it read as they should, in 80 columns', () => {
  const outside = new Workplace()
  const place = new Workplace({}, outside.path('saltlantern'))
  const demo = outside.run(['demo', 'saltlantern'])
  expect(demo.code).toBe(0)
  told('demo', demo, place)
  expectGolden('config', place.read('anagnosis.yaml'))
  // it writes into no folder that holds something
  expect(outside.run(['demo', 'saltlantern']).code).toBe(4)
  for (const [name, call] of CALLS) told(name, place.run(call), place)
})

test('a carry of the demo data reads as it should; repeated on its result it changes nothing', () => {
  const place = new Workplace()
  cpSync(join(ROOT, 'demo/data'), place.folder, { recursive: true })
  const carry = (mine: string, ...more: string[]): Ran =>
    place.run(['carry', '--old', 'vanilla-4.1', '--new', 'vanilla-4.2', '--mine', mine, ...more])
  told('carry', carry('old-harbour', '--out', 'carried'), place)
  told('carry-dry-run', carry('old-harbour', '--dry-run'), place)
  const again = carry('carried', '--out', 'again', '--json')
  expect(again.code).toBe(1)
  expect(carryDocument.parse(JSON.parse(again.out)).counts.conflicts).toBe(14)
  expect(place.tree('again')).toEqual(place.tree('carried'))
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
  expectGolden('guide', steady(transcript, place))
})
