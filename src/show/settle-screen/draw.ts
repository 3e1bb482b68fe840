import type { ScreenData } from '../../core/facts/screen.ts'
import type { Question } from '../../core/grouping/questions.ts'
import type { Paint } from '../paint.ts'
import { keysOf } from '../open-words.ts'
import { count, MOST_WIDTH, oneLine, pad, widthOf } from '../text.ts'
import { fitted } from './fitted.ts'
import { KEY_HELP } from './keys.ts'
import { detailOf, previewOf } from './question-part.ts'
import { groupList, groupRows } from './group-part.ts'
import type { ScreenState } from './state.ts'
import { shownGroups, shownQuestions } from './state.ts'
import { scopesOf } from './scope.ts'

/** Below this a window has no room for the screen. */
const LEAST_WIDTH = 60
const LEAST_HEIGHT = 15

/**
 * The screen as lines of a terminal: none wider than it is.
 *
 * @param height of the terminal without its last line, which stays empty
 */
export function drawScreen(
  state: ScreenState,
  paint: Paint,
  width: number,
  height: number,
): string[] {
  if (isTooSmall(width, height)) return tooSmall(state.data, width, height)
  const inner = Math.min(width - 2, MOST_WIDTH)
  const rule = paint.quiet('-'.repeat(inner))
  const top = [header(state, paint, inner), ...unreadEdits(state.data, paint, inner), rule]
  const bottom = [rule, ...footer(state, paint, inner)]
  const room = height - top.length - bottom.length
  const middle = middleOf(state, paint, inner, room, rule)
  const filled = [
    ...middle.slice(0, room),
    ...Array<string>(Math.max(0, room - middle.length)).fill(''),
  ]
  return [...top, ...filled, ...bottom].map((line) => ` ${line}`.trimEnd())
}

/** Whether a window has no room for the screen: then nothing is answered there either. @param height without the last line */
export function isTooSmall(width: number, height: number): boolean {
  return width < LEAST_WIDTH || height + 1 < LEAST_HEIGHT
}

function tooSmall({ variant }: ScreenData, width: number, height: number): string[] {
  return [
    `This window is ${width}x${height + 1}; settle needs ${LEAST_WIDTH}x${LEAST_HEIGHT}.`,
    'Make it larger, or leave with q and use the options:',
    `  anagnosis settle ${variant} --list`,
  ]
    .map((line) => line.slice(0, Math.max(1, width)))
    .slice(0, Math.max(1, height))
}

function middleOf(
  state: ScreenState,
  paint: Paint,
  width: number,
  room: number,
  rule: string,
): string[] {
  const { part, preview, rows } = state
  if (part === 'help') return help(width)
  if (preview !== undefined) return previewOf(preview, state, paint, width, room)
  if (part === 'groups') return groupList(shownGroups(state), state.group, paint, width, room)
  if (part === 'rows')
    return groupRows({ rows: rows ?? [], at: state.row, state }, paint, width, room)
  const questions = shownQuestions(state)
  const question = questions[state.at]
  if (question === undefined) {
    const why =
      state.search !== '' || state.file !== undefined
        ? 'No question fits: Esc in the search, or f, shows all again.'
        : 'Nothing is open.'
    return ['', why]
  }
  if (part === 'entry') return detailOf(question, state, paint, width, room)
  const least = room < 14 ? 2 : 4
  const listed = Math.max(least, Math.min(9, Math.floor(room * 0.35), outlineLength(questions)))
  const list = outline(questions, state, paint, width, listed)
  return [...list, rule, ...detailOf(question, state, paint, width, room - list.length - 1)]
}

function header(state: ScreenState, paint: Paint, width: number): string {
  const { data, part, search, file } = state
  const { variant, from, to, questions, closed, groups } = data
  const keys = keysOf(questions)
  const unseen = groups.filter(({ isLookedAt }) => !isLookedAt).length
  const where = [
    ...(search === '' ? [] : [`/${oneLine(search, 16)}`]),
    ...(file === undefined ? [] : [oneLine(file, 24)]),
  ].join(' ')
  const right =
    part === 'groups' || part === 'rows'
      ? `${count(groups.length, 'group')} of changes · ${unseen} not looked at`
      : `${count(questions.length, 'question')} over ${count(keys, 'key')} · ${closed.length} closed`
  const left = `${variant}  ${from} to ${to}${where === '' ? '' : `  ${where}`}`
  const gap = Math.max(2, width - widthOf(left) - widthOf(right))
  return fitted(`${paint.strong(oneLine(left, width - 4))}${' '.repeat(gap)}${right}`, width)
}

/** What cannot be taken over of what was edited by hand: the first of it, since all of it stands in the list. */
function unreadEdits({ problems, variant }: ScreenData, paint: Paint, width: number): string[] {
  const [first] = problems
  if (first === undefined) return []
  const rest = problems.length - 1
  const more = rest === 0 ? '' : ` (${rest} more: anagnosis settle ${variant} --list)`
  const said = `! ${first.path} ${first.message}`
  return [paint.open(fitted(oneLine(said, width - widthOf(more)) + more, width))]
}

/** The scope of the answer, what the last key did, and what keys there are. */
function footer(state: ScreenState, paint: Paint, width: number): string[] {
  const { typing, said, busy } = state
  const asked = typing === undefined ? said : `${promptOf(state)} ${typing.text}_`
  const line = busy ?? asked
  return [
    fitted(scopeLine(state, paint), width),
    fitted(typing === undefined ? line : paint.strong(line), width),
    paint.quiet(fitted(keysLine(state), width)),
  ]
}

function promptOf({ typing, rows, row }: ScreenState): string {
  switch (typing?.what) {
    case 'search':
      return 'Search:'
    case 'key':
      return 'Which key gets a value?'
    case 'key-value':
      return `The value of ${oneLine(typing.key ?? '', 40)}:`
    case 'row-value':
      return `The value of ${oneLine(rows?.[row]?.key ?? '', 40)}:`
    default:
      return 'The value:'
  }
}

function scopeLine(state: ScreenState, paint: Paint): string {
  const { part, scope, data, rows, row } = state
  // the list has no room for a long key
  if (part === 'rows') return oneLine(rows?.[row]?.key ?? '', 200)
  const question = shownQuestions(state)[state.at]
  if (part !== 'questions' || question === undefined || state.preview !== undefined) return ''
  const words = scopesOf(question, data.questions).map((each) => {
    const text = scopeWords(each, question)
    return each === scope ? paint.strong(`(${text})`) : ` ${text} `
  })
  return `holds for: ${words.join(' ')}`
}

function scopeWords(scope: string, { conflicts, pattern, tied }: Question): string {
  if (scope === 'this') return tied.length > 0 ? 'this entry' : 'this key'
  if (scope === 'alike') return `all ${conflicts.length} alike`
  return `every ${oneLine(pattern, 28)}`
}

function keysLine({ part, typing, preview }: ScreenState): string {
  if (typing !== undefined) return 'Enter takes it · Esc gives it up'
  if (preview !== undefined) return 'Enter answers all of them · Esc goes back'
  if (part === 'groups')
    return 'Space looked at · A all · right keys · / search · Tab questions · q leave'
  if (part === 'rows') return 'Enter a value · Space looked at · u undo · Esc back · q leave'
  if (part === 'help' || part === 'entry') return 'Esc back'
  return 'Enter answer · s scope · u undo · p aside · / search · Tab · ? keys · q leave'
}

function help(width: number): string[] {
  return ['', ...KEY_HELP.map(([keys, what]) => fitted(`  ${pad(keys, 10)}  ${what}`, width))]
}

/** The list of files, each with its questions and how many keys are open in them. */
interface OutlineLine {
  text: string
  isAt: boolean
}

function outlineLength(questions: readonly Question[]): number {
  return questions.length + new Set(questions.map(({ paths: [path] }) => path)).size
}

function outline(
  questions: readonly Question[],
  state: ScreenState,
  paint: Paint,
  width: number,
  room: number,
): string[] {
  const most = Math.max(1, ...questions.map(({ conflicts }) => conflicts.length))
  const lines: OutlineLine[] = []
  let file: string | undefined
  for (const [i, question] of questions.entries()) {
    const [path = ''] = question.paths
    if (path !== file) {
      file = path
      const of = questions.filter(({ paths }) => paths[0] === path)
      const keys = keysOf(of)
      const open = `${count(keys, 'key')} open`
      const name = oneLine(path, width - open.length - 2)
      lines.push({ text: pad(name, width - open.length) + open, isAt: false })
    }
    lines.push({
      text: outlineRow(question, i === state.at, most, state, width),
      isAt: i === state.at,
    })
  }
  const at = lines.findIndex(({ isAt }) => isAt)
  const from = Math.max(0, Math.min(lines.length - room, at - Math.floor(room / 2)))
  return lines.slice(from, from + room).map(({ text, isAt }) => (isAt ? paint.open(text) : text))
}

const BAR = 20

function outlineRow(
  question: Question,
  isAt: boolean,
  most: number,
  { aside }: ScreenState,
  width: number,
): string {
  const { pattern, conflicts, example, paths } = question
  const full = Math.max(1, Math.round((conflicts.length / most) * BAR))
  const bar = '#'.repeat(full) + '.'.repeat(BAR - full)
  const number = String(conflicts.length).padStart(5)
  const more = paths.length > 1 ? ` and ${paths.length - 1} more files` : ''
  const late = aside.has(example.id) ? '  aside' : ''
  const isAlone = conflicts.length === 1 + question.tied.length
  const name = pattern === '' ? 'the whole file' : isAlone ? example.key : pattern
  const room = width - 4 - number.length - 2 - BAR - late.length
  return `  ${isAt ? '>' : ' '} ${pad(oneLine(name + more, room), room)}${number}  ${bar}${late}`
}
