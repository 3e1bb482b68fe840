import type { GroupRow, QuestionDetail, ScreenData, ScreenGroup } from '../../core/facts/screen.ts'
import { choicesOf } from '../../core/grouping/choices.ts'
import type { PlacedConflict, Question } from '../../core/grouping/questions.ts'
import type { AnswerScope, ScreenChoice } from './scope.ts'
import { opening } from './words.ts'

/** What is asked for in the line at the bottom. */
export interface Typing {
  what: 'value' | 'search' | 'row-value' | 'key' | 'key-value'
  text: string
  /** The key that gets the value, where that was typed before. */
  key?: string
}

/** What an answer to all keys of a pattern would do, before it is given. */
export interface Preview {
  choice: ScreenChoice
  conflicts: PlacedConflict[]
}

/** What stands on the screen. */
export interface ScreenState {
  data: ScreenData
  part: 'questions' | 'groups' | 'rows' | 'help' | 'entry'
  /** The index among the questions that are shown. */
  at: number
  /** The index among the groups, and among the rows of the one at hand. */
  group: number
  row: number
  /** The choice that Enter gives, by its index. */
  choice: number
  scope: AnswerScope
  search: string
  file: string | undefined
  aside: ReadonlySet<string>
  typing: Typing | undefined
  preview: Preview | undefined
  detail: QuestionDetail | undefined
  rows: readonly GroupRow[] | undefined
  /** What the last key did. */
  said: string
  /** What is being done, as long as it takes. */
  busy: string | undefined
  isLeft: boolean
}

/** The questions in the order of the list: files by their largest question, what was put aside last. */
export function shownQuestions(state: ScreenState): Question[] {
  const { data, search, file, aside } = state
  const largest = new Map<string, number>()
  for (const { paths, conflicts } of data.questions) {
    const [path = ''] = paths
    largest.set(path, Math.max(largest.get(path) ?? 0, conflicts.length))
  }
  const wanted = search.toLowerCase()
  const isMeant = ({ paths, conflicts }: Question): boolean =>
    (file === undefined || paths.includes(file)) &&
    (wanted === '' ||
      conflicts.some(({ path, key }) => `${path}: ${key}`.toLowerCase().includes(wanted)))
  const rank = (question: Question): number => (aside.has(question.example.id) ? 1 : 0)
  const sizeOf = ({ paths: [path = ''] }: Question): number => largest.get(path) ?? 0
  return data.questions
    .filter(isMeant)
    .sort(
      (a, b) =>
        rank(a) - rank(b) ||
        sizeOf(b) - sizeOf(a) ||
        compare(a.paths[0] ?? '', b.paths[0] ?? '') ||
        b.conflicts.length - a.conflicts.length,
    )
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0
}

/** The groups in the order of the list: those that nobody looked at first, the largest first. */
export function shownGroups({ data, search, file }: ScreenState): ScreenGroup[] {
  const wanted = search.toLowerCase()
  return data.groups
    .filter(({ path }) => file === undefined || path === file || path === '')
    .filter(({ path, pattern }) => `${path}: ${pattern}`.toLowerCase().includes(wanted))
    .sort((a, b) => Number(a.isLookedAt) - Number(b.isLookedAt) || b.count - a.count)
}

/** The answers to the question at hand; the last is one that is typed in. */
export function shownChoices({ data }: ScreenState, question: Question): ScreenChoice[] {
  const habit = data.habits.find(({ pattern }) => pattern === question.pattern)
  const choices = choicesOf(question, data.habits).map((choice): ScreenChoice =>
    habit !== undefined && choice.take.startsWith('value:') ? { ...choice, habit } : choice,
  )
  return question.tied.length > 0 || question.example.key === ''
    ? choices
    : [...choices, { take: 'value:', value: null, why: 'another value' }]
}

/** The screen as it opens. */
export function firstState(data: ScreenData): ScreenState {
  return {
    data,
    part: 'questions',
    at: 0,
    group: 0,
    row: 0,
    choice: 0,
    scope: 'this',
    search: '',
    file: undefined,
    aside: new Set(),
    typing: undefined,
    preview: undefined,
    detail: undefined,
    rows: undefined,
    said: opening(data),
    busy: undefined,
    isLeft: false,
  }
}
