import { mkdirSync, symlinkSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { describe, expect, test } from 'vitest'
import type { CarryReport } from '../../src/core/report/report.ts'
import { colourPaint } from '../../src/show/paint.ts'
import { showCarry } from '../../src/show/carry-view.ts'
import { printable } from '../../src/show/text.ts'
import { carryPair } from '../../src/workspace/carry/carry-entry.ts'
import { capitalsApart } from '../../src/workspace/carry/capitals-apart.ts'
import { closedIn, closedReport, withoutClosed } from '../../src/workspace/carry/closed-folders.ts'
import { chooseWhole } from '../../src/workspace/carry/whole-entry.ts'
import { Failure } from '../../src/workspace/failure.ts'
import type { TreeEntry } from '../../src/workspace/tree.ts'
import { temporaryFolder } from '../temporary.ts'

const folder = (): string => temporaryFolder('stands')

function file(root: string, name: string, text: string): TreeEntry {
  const location = join(root, name)
  mkdirSync(dirname(location), { recursive: true })
  writeFileSync(location, text)
  return { kind: 'file', location }
}

function link(root: string, name: string, target: string): TreeEntry {
  const location = join(root, name)
  symlinkSync(target, location)
  return { kind: 'link', location }
}

describe('links, and things of several kinds', () => {
  test('are rows and questions, with where a link leads', () => {
    const root = folder()
    const [a, b, c] = [link(root, 'a', 'east'), link(root, 'b', 'west'), link(root, 'c', 'south')]
    const east = link(root, 'd', 'east')
    const plain = file(root, 'e', 'plain\n')
    const chosen = (...entries: (TreeEntry | undefined)[]): unknown => {
      const [old, fresh, mine] = entries
      const { side, report } = chooseWhole('buoy', [old, fresh, mine])
      const rows = report.changes.map((each) => `${each.side} ${each.kind} ${each.result ?? '-'}`)
      return [side, report.outcome, ...rows, ...report.conflicts.map(({ kind }) => kind)]
    }
    expect(chosen(a, b, east)).toEqual([1, 'vanilla', 'vanilla changed a link to west'])
    expect(chosen(a, east, b)).toEqual([2, 'mine', 'mine changed a link to west'])
    expect(chosen(a, b, c)).toEqual([2, 'conflict', 'file'])
    expect(chosen(a, plain, b)).toEqual([2, 'conflict', 'file'])
    expect(chosen(a, plain, east)).toEqual([1, 'vanilla', 'vanilla changed -'])
    expect(chosen(a, undefined, b)).toEqual([2, 'conflict', 'gone-in-vanilla'])
    expect(chosen(a, b, undefined)).toEqual([undefined, 'conflict', 'gone-in-mine'])
    expect(chosen(a, undefined, east)).toEqual([undefined, 'removed', 'vanilla removed -'])
    expect(chosen(undefined, a, undefined)).toEqual([1, 'added', 'vanilla added a link to east'])
    expect(chosen(a, east, a)).toEqual([2, 'same'])
  })

  test('names that differ by capitals alone inside one tree are told', () => {
    const entry: TreeEntry = { kind: 'file', location: '' }
    const tree = new Map([
      ['Rules/dive.json', entry],
      ['rules/dive.json', entry],
      ['rules/sea.ini', entry],
    ])
    expect(
      capitalsApart([new Map(), tree, new Map()]).map(({ code, input }) => [code, input]),
    ).toEqual([['file/capitals-apart', 'new']])
  })
})

describe('what may not be opened', () => {
  const failure = new Failure('file/denied', 'you may not open it', { exit: 3 })

  test('a file of mine is not in the result, and is never replaced by the one of vanilla', async () => {
    const root = folder()
    const entries = [
      file(root, 'old/sea.ini', 'swell = 1\n'),
      file(root, 'new/sea.ini', 'swell = 2\n'),
      { kind: 'file', location: join(root, 'mine/sea.ini') },
    ] as const
    const report: CarryReport = { files: [], problems: [] }
    const written: string[] = []
    const output = { file: (path: string) => written.push(path) }
    const context = {
      config: {} as never,
      oldUnknown: false,
      explain: undefined,
      vanillaIsSingleByte: () => false,
    }
    await carryPair(context, output as never, { path: 'sea.ini', entries }, report)
    expect(written).toEqual([])
    expect(report.files.map(({ outcome }) => outcome)).toEqual(['unread'])
    const paths = { old: 'old', new: 'new', mine: 'mine', out: 'out' }
    const view = { report, paths, next: [], dryRun: false, isSingle: false }
    const said = showCarry(view, colourPaint(0), 80)
    expect(said.split('\n').slice(2, 4)).toEqual([
      '  NOT in the result is this of yours, which may not be opened:',
      '    sea.ini',
    ])
  })

  test('below a folder of vanilla all is as mine has it; one of mine is named', () => {
    const entry: TreeEntry = { kind: 'file', location: '' }
    const trees = [
      new Map([['a.ini', entry]]),
      new Map([
        ['a.ini', entry],
        ['crew/own/x.ini', entry],
      ]),
      new Map([
        ['a.ini', entry],
        ['crew/y.ini', entry],
      ]),
    ] as const
    const closed = [
      new Map([['crew', failure]]),
      new Map([['crew/own', failure]]),
      new Map<string, Failure>(),
    ] as const
    const shut = closedIn(closed)
    expect(shut.map(({ path }) => path)).toEqual(['crew'])
    expect(withoutClosed(trees, shut).map((tree) => [...tree.keys()])).toEqual([
      ['a.ini', 'crew/y.ini'],
      ['a.ini', 'crew/y.ini'],
      ['a.ini', 'crew/y.ini'],
    ])
    const [report] = shut.map(closedReport)
    expect([report?.outcome, report?.problems[0]?.input]).toEqual(['unread', 'old'])
  })
})

test('no control character of an input reaches the terminal', () => {
  expect(printable('a\u001b]0;title\u0007b\nc\u0085\u202e')).toBe(
    'a\\u001b]0;title\\u0007b\nc\\u0085\\u202e',
  )
  expect(printable('\u001b[31mred\u001b[0m')).toBe('\u001b[31mred\u001b[0m')
})
