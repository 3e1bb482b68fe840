import type { OpenQuestion, SettleState } from '../core/facts/settled.ts'
import { choicesOf } from '../core/grouping/choices.ts'
import type { QuestionChoice } from '../core/grouping/choices.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { showProblem } from './problem-view.ts'
import { firstQuestions, shownQuestion } from './questions-view.ts'
import { shownSheet } from './sheet-view.ts'
import { count, oneLine, pad, widthOf, wrap } from './text.ts'

/** More decided keys than this are counted. */
const MOST_CLOSED = 8

export interface SettleView {
  state: SettleState
  /** What a call that decides begins with: `anagnosis settle old-harbour`. */
  call: string
  isList: boolean
  all: boolean
  next: readonly string[]
}

/** Where a draft stands, or what a call decided, as text for people. */
export function showSettle(view: SettleView, paint: Paint, width: number): string {
  const { state, isList, next } = view
  const lines = [
    ...wrap(headline(view), width, '').map((line) => paint.strong(line)),
    ...(isList ? listed(view, paint, width) : answered(view, width)),
    ...notApplied(state, paint, width),
    ...state.problems.flatMap((problem) => ['', ...showProblem(problem, paint, width)]),
    ...showNext(next, width),
  ]
  return `${lines.join('\n')}\n`
}

function headline({ state }: SettleView): string {
  const { variant, from, to, questions, open, closedInAll } = state
  const asked =
    open === 0
      ? 'nothing is open'
      : `${count(questions.length, 'question')} over ${count(open, 'key')} ${questions.length === 1 ? 'is' : 'are'} open`
  const closed = closedInAll === 0 ? '' : ` · ${closedInAll} closed`
  return `${variant}  ${from} to ${to}   ${asked}${closed}`
}

function listed(view: SettleView, paint: Paint, width: number): string[] {
  const { state, all } = view
  const { shown, rest } = firstQuestions(state.questions, all)
  const unseen = state.notLookedAt
  return [
    ...shown.flatMap((question, i) => ['', ...shownOpen(question, i + 1, view, paint, width)]),
    ...rest,
    ...(state.closed.length === 0 ? [] : ['', '  Decided:', ...closedLines(view, width)]),
    ...(unseen === 0
      ? []
      : [
          '',
          ...wrap(
            `Nobody looked at ${count(unseen, 'group')} of changes of vanilla; --looked-at all marks them as looked at.`,
            width,
            '  ',
          ),
        ]),
  ]
}

function shownOpen(
  question: OpenQuestion,
  number: number,
  { state, call }: SettleView,
  paint: Paint,
  width: number,
): string[] {
  const { from, to, variant, habits } = state
  const heads = { old: from, new: to, mine: variant }
  const { sheet } = question
  return [
    ...shownQuestion(question, number, paint, width),
    ...(sheet === undefined ? [] : ['', ...shownSheet(sheet, heads, paint, width), '']),
    ...shownChoices(choicesOf(question, habits), question, width),
    ...wrap(`${call} ${target(question)} --take …`, width, '       '),
  ]
}

/** Each choice by its value, with what `--take` is told for it: in columns, or below it where a line is too short. */
function shownChoices(
  choices: readonly QuestionChoice[],
  { example }: OpenQuestion,
  width: number,
): string[] {
  const rows = choices.map(({ take, value, why }) => ({
    text: example.key === '' ? wholeFile(take, example.kind) : oneValue(value),
    why,
    option: `--take ${quotedTake(take)}`,
  }))
  const texts = Math.max(16, ...rows.map(({ text }) => widthOf(text)))
  const fits = ({ why, option }: (typeof rows)[number]): boolean =>
    11 + texts + widthOf(why) + widthOf(option) <= width
  const whys = Math.max(0, ...rows.filter(fits).map(({ why }) => widthOf(why)))
  return rows.flatMap((row) => {
    const { text, why, option } = row
    const value = `       ${pad(text, texts)}`
    return fits(row)
      ? [`${value}  ${pad(why, whys)}  ${option}`]
      : [`${value}  ${why}`, `         ${option}`]
  })
}

function oneValue(value: string | null): string {
  if (value === null) return 'nothing'
  return value === '' ? 'empty' : oneLine(value.replace(/\s*\n\s*/g, ' '), 30)
}

function wholeFile(take: string, kind: OpenQuestion['example']['kind']): string {
  const isGone = kind === (take === 'mine' ? 'gone-in-mine' : 'gone-in-vanilla')
  if (isGone) return 'no file'
  return take === 'mine' ? 'your file' : "vanilla's file"
}

function quotedTake(take: string): string {
  return /[^\w.:@%+,=/-]/.test(take) ? `"${take.replaceAll('"', '\\"')}"` : take
}

/** The options that name a question: by its id, for alike ones all of them. */
function target({ example, conflicts, tied }: OpenQuestion): string {
  if (example.unread === true) return `--file ${quotedTake(example.path)}`
  const alike = conflicts.length > 1 + tied.length ? ' --alike' : ''
  return `--id ${example.id}${alike}`
}

function answered(view: SettleView, width: number): string[] {
  const { state } = view
  const lines: string[] = []
  if (state.closed.length > 0)
    lines.push(`  Closed ${count(state.closed.length, 'key')}:`, ...closedLines(view, width))
  if (state.lookedAt > 0)
    lines.push(`  Marked ${count(state.lookedAt, 'group')} of changes as looked at.`)
  return lines
}

function closedLines({ state, all }: SettleView, width: number): string[] {
  const shown = all ? state.closed : state.closed.slice(0, MOST_CLOSED)
  const rest = state.closed.length - shown.length
  return [
    ...shown.flatMap(({ path, key, take, result }) => {
      const where = key === '' ? path : `${path}: ${key}`
      const is = key === '' ? '' : ` is ${oneValue(result)}`
      return wrap(`${oneLine(where, 120)}${is}${takeWords(take)}`, width, '    ')
    }),
    ...(rest > 0 ? [`    and ${rest} more; --all shows them`] : []),
  ]
}

/** Whose a value is that was taken; one that was typed in speaks for itself. */
function takeWords(take: string): string {
  if (take === 'vanilla') return ", vanilla's"
  if (take === 'mine') return ', yours'
  return take === 'both' || take.startsWith('onto:') ? `, ${oneLine(take, 40)}` : ''
}

function notApplied({ notApplied: all }: SettleState, paint: Paint, width: number): string[] {
  if (all.length === 0) return []
  return [
    '',
    paint.open(`  ${count(all.length, 'decision')} could not be taken over:`),
    ...all
      .slice(0, MOST_CLOSED)
      .flatMap(({ path, key, why }) => wrap(`${path}: ${key}  ${why}`, width, '    ')),
    ...(all.length > MOST_CLOSED ? [`    and ${all.length - MOST_CLOSED} more`] : []),
  ]
}
