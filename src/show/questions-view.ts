import type { PlacedConflict, Question } from '../core/grouping/questions.ts'
import { shortList } from '../core/document/short-list.ts'
import type { EarlierAnswer } from '../core/report/ledger.ts'
import type { Paint } from './paint.ts'
import { conflictSentence, tiedSentence } from './sentence.ts'
import { clip, count, oneLine, pad, wrap } from './text.ts'

/** More questions than this are counted, not shown one by one. */
const MOST_QUESTIONS = 30

/** The questions that are shown, and the line that counts the others. @param all whether none is left out */
export function firstQuestions<Q>(
  questions: readonly Q[],
  all: boolean,
): { shown: readonly Q[]; rest: string[] } {
  const shown = all ? questions : questions.slice(0, MOST_QUESTIONS)
  const more = questions.length - shown.length
  return {
    shown,
    rest: more > 0 ? ['', `  and ${count(more, 'more question')}; --all shows them`] : [],
  }
}

/** What the words of a list of questions mean. */
const LEGEND = [
  'A key is a place in a file: find[a]/worth is the worth of the find named a;',
  'find[*] is every find. A question asks whose change of a key is to hold.',
]

/** Questions as people read them, those over most keys first. @param all whether none is left out */
export function shownQuestions(
  questions: readonly Question[],
  all: boolean,
  paint: Paint,
  width: number,
): string[] {
  const { shown, rest } = firstQuestions(questions, all)
  if (shown.length === 0) return []
  return [
    ...shown.flatMap((question, i) => ['', ...shownQuestion(question, i + 1, paint, width)]),
    ...rest,
    '',
    ...LEGEND.map((line) => paint.quiet(`  ${line}`)),
  ]
}

/** One question: its key, where it is, what both sides did. */
export function shownQuestion(
  question: Question,
  number: number,
  paint: Paint,
  width: number,
): string[] {
  const { example, conflicts, paths } = question
  const alone = conflicts.length === 1 + question.tied.length
  const key = alone ? example.key : question.pattern
  const where = alone ? lineOf(example) : count(conflicts.length, 'key')
  const head = `${String(number).padStart(3)}  `
  const shownKey = clip(oneLine(key === '' ? '(the whole file)' : key, 200), width - head.length)
  const [path = ''] = paths
  const more = paths.length > 1 ? ` and ${count(paths.length - 1, 'more file')}` : ''
  const place = `${oneLine(path, 200)}${more}${where === '' ? '' : `, ${where}`}`
  const inRow = head.length + Math.max(shownKey.length, 34) + 2 + place.length <= width
  const first = head + paint.open(inRow ? pad(shownKey, 34) : shownKey)
  const lines = inRow ? [`${first}  ${place}`] : [first, ...wrap(place, width, '     ')]
  const said =
    question.tied.length === 0
      ? conflictSentence(example, paint)
      : tiedSentence([example, ...question.tied], paint)
  lines.push(...wrap(said, width, '     '))
  if (!alone) lines.push(...wrap(names(question), width, '     '))
  const { earlier } = example
  if (earlier !== undefined)
    lines.push(...wrap(`${earlierWords(earlier)}, for other values.`, width, '     '))
  return lines
}

function earlierWords({ take, value }: EarlierAnswer): string {
  const what =
    take === 'vanilla' ? "vanilla's" : take === 'mine' ? 'yours' : oneLine(value ?? take, 40)
  return `You answered this before: ${what}`
}

function lineOf({ at, key }: Question['example']): string {
  if (key === '') return ''
  if (at.mine !== null) return `line ${at.mine.line} of yours`
  return at.new === null ? '' : `line ${at.new.line} of new`
}

/** `diving-bell (line 40), brass-lamp (line 112) and 39 more`. */
function names({ conflicts, tied, paths }: Question): string {
  const entries = conflicts.filter((_, i) => i % (tied.length + 1) === 0)
  const named = entries.map((conflict) => {
    const identity = /\[("(?:[^"\\]|\\.)*"|[^\]]*)\]/.exec(conflict.key)?.[1] ?? conflict.key
    const place = placeOf(conflict, paths.length > 1)
    return place === '' ? oneLine(identity) : `${oneLine(identity)} (${place})`
  })
  return shortList(named)
}

/** `line 12`; with the file and the variant where these are not the same for all. */
function placeOf({ path, variant, at }: PlacedConflict, withPath: boolean): string {
  const line = at.mine?.line ?? at.new?.line
  const where = [
    ...(variant === undefined ? [] : [variant]),
    ...(withPath ? [oneLine(path, 60)] : []),
    ...(line === undefined ? [] : [`line ${line}`]),
  ]
  return where.join(' ')
}
