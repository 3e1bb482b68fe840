import { describe, expect, test } from 'vitest'
import type { Conflict } from '../../src/core/report/ledger.ts'
import type { FileReport, LocatedProblem } from '../../src/core/report/report.ts'
import { countsOf } from '../../src/core/report/report.ts'
import { showCarry } from '../../src/show/carry-view.ts'
import { PLAIN } from '../../src/show/paint.ts'
import { showProblem } from '../../src/show/problem-view.ts'
import { questionsOf } from '../../src/core/grouping/questions.ts'
import { conflictSentence } from '../../src/show/sentence.ts'
import { clip, oneLine, wrap } from '../../src/show/text.ts'

const AT = { line: 3, column: 5 }
const ALL_AT = { old: AT, new: AT, mine: AT }

function conflict(values: Partial<Conflict>): Conflict {
  return {
    key: 'find[lamp]/worth',
    kind: 'two-values',
    id: '0123456789ab',
    old: '2',
    new: '3',
    mine: '8',
    result: '8',
    at: {
      old: AT,
      new: values.new === null ? null : AT,
      mine: values.mine === null ? null : AT,
    },
    ...values,
  }
}

function file(conflicts: Conflict[]): FileReport {
  return {
    path: 'salvage/finds.xml',
    format: 'xml',
    outcome: 'conflict',
    counts: countsOf([], conflicts),
    changes: [],
    conflicts,
    problems: [],
  }
}

const LONG = `${'a lamp, rope and tar, '.repeat(4)}sand silt and no rope`
const AT_DECK = { path: 'a', key: 'deck[bell]' }

describe('sentences', () => {
  test.each([
    [
      {},
      'Vanilla raised it from 2 to 3 (half as much again). You have 8, four times the old value.',
    ],
    [
      { old: '90', new: '45', mine: '100' },
      'Vanilla lowered it from 90 to 45 (half). You have 100.',
    ],
    [
      { old: 'bell', new: 'two\n  bells', mine: '' },
      'Vanilla changed it from bell to two bells. You have empty.',
    ],
    [{ kind: 'two-new', old: null }, 'Old has none of it; vanilla has 3, you have 8.'],
    [
      { kind: 'gone-in-vanilla', new: null, inside: [{ path: '', from: '2', to: '8' }] },
      'Vanilla dropped it, but you had changed it: from 2 to 8.',
    ],
    [
      {
        kind: 'gone-in-mine',
        mine: null,
        result: null,
        inside: [
          { path: 'worth', from: '2', to: '3' },
          { path: 'note', from: null, to: 'a' },
          { path: 'x', from: '1', to: null },
        ],
      },
      'You dropped it, but vanilla has changed it since: worth from 2 to 3, note from nothing to a and 1 more.',
    ],
    [
      {
        kind: 'gone-in-vanilla',
        new: null,
        at: ALL_AT,
        inside: [{ path: '', from: '2', to: '8' }],
      },
      'Vanilla commented it out, but you had changed it: from 2 to 8.',
    ],
    [
      { kind: 'gone-in-mine', mine: null, at: ALL_AT, inside: [{ path: '', from: '2', to: '3' }] },
      'You commented it out, but vanilla has changed it since: from 2 to 3.',
    ],
    [
      { old: '1', new: '1.0', mine: '3' },
      'Vanilla changed it from 1 to 1.0. You have 3, three times the old value.',
    ],
    [
      { kind: 'lines', new: 'Mind the reef.', mine: null },
      'Both rewrote this differently: vanilla has Mind the reef., you have nothing.',
    ],
    [{ old: 'bell', new: 'bell', mine: 'bell, bell' }, 'Vanilla moved it. You have bell, bell.'],
    [
      { old: 'bell', new: 'bell, bell', mine: 'bell' },
      'Vanilla changed it from bell to bell, bell. You moved it.',
    ],
    [
      { old: 'bell, bell', new: 'bell', mine: 'bell' },
      'Both changed it from bell, bell to bell, in different places.',
    ],
    [
      { old: LONG, new: `${LONG} and a bell`, mine: `no ${LONG}` },
      'Vanilla changed it from …nd no rope to …nd no rope and a bell. You have no a lamp, rope and tar, a lamp, rope and tar, ….',
    ],
    [
      { kind: 'gone-in-vanilla', old: 'a', new: null, mine: 'a', perhaps: AT_DECK },
      'Vanilla dropped it, and you have it at deck[bell] now. Is yours to stay?',
    ],
    [
      { kind: 'gone-in-mine', old: 'a', new: 'a', mine: null, perhaps: AT_DECK },
      "You have it here no more, and vanilla has it at deck[bell] now. Is vanilla's to stay?",
    ],
    [{ kind: 'file' }, 'Both changed this file, and it has no keys to merge by.'],
  ] as [Partial<Conflict>, string][])('%j', (values, sentence) => {
    expect(conflictSentence(conflict(values), PLAIN)).toBe(sentence)
  })
})

describe('questions', () => {
  test('alike conflicts are one, the largest first', () => {
    const questions = questionsOf([
      file([
        conflict({ key: 'find[a]/worth' }),
        conflict({ key: 'find[b]/yield/@most' }),
        conflict({ key: 'find[c]/yield/@most' }),
        conflict({ key: 'find[d]/yield/@most', mine: '9' }),
      ]),
    ])
    expect(questions.map(({ pattern, conflicts }) => [pattern, conflicts.length])).toEqual([
      ['find[*]/yield/@most', 2],
      ['find[*]/worth', 1],
      ['find[*]/yield/@most', 1],
    ])
  })

  test.each([80, 140])('the whole view keeps to %i columns', (width) => {
    const key = `find["${'a very long identity '.repeat(9)}"]/worth`
    const view = {
      report: {
        files: [file([conflict({ key, new: 'x'.repeat(300) }), conflict({})])],
        problems: [],
      },
      paths: { old: 'o'.repeat(60), new: 'n', mine: 'm', out: 'out' },
      next: [],
      dryRun: false,
      isSingle: false,
    }
    const text = showCarry(view, PLAIN, width)
    expect(Math.max(...text.split('\n').map((line) => line.length))).toBeLessThanOrEqual(width)
    expect(text).toContain('2 questions over 2 keys are open')
  })
})

describe('a located problem', () => {
  const problem: LocatedProblem = {
    severity: 'error',
    code: 'json/missing-comma',
    message: 'a comma is missing',
    path: 'rules/dive.json',
    line: 14,
    column: 3,
    input: 'mine',
    text: '\t"limits": 3',
    width: 8,
    hint: 'put one here',
    related: { line: 12, column: 2, text: '{', message: 'opened here' },
  }

  test('shows its lines in order, with a mark under the place', () => {
    expect(showProblem(problem, PLAIN, 80)).toEqual([
      'rules/dive.json:14:3 (in mine)  a comma is missing',
      '   12 | {',
      '         ^ opened here',
      '   14 |  "limits": 3',
      '          ^^^^^^^^ put one here',
    ])
  })

  test('a place far out on a long line is brought into view', () => {
    const far = { ...problem, column: 300, width: 1, text: `${'x'.repeat(299)}!${'y'.repeat(99)}` }
    const lines = showProblem(far, PLAIN, 80)
    const mark = lines.at(-1)?.indexOf('^') ?? -1
    expect(lines.at(-2)?.[mark]).toBe('!')
    expect(Math.max(...lines.map((line) => line.length))).toBeLessThanOrEqual(80)
  })
})

test('text is cut and wrapped by what it takes on the screen, and controls are seen', () => {
  expect(clip('深い海の底', 6)).toBe('深い…')
  expect(wrap('one two three', 9, '  ')).toEqual(['  one two', '  three'])
  expect(oneLine('a\u001b[31m\nb\u202e')).toBe('a\\u001b[31m⏎b\\u202e')
})
